using Sexton.Data.Rows;
using Sexton.Server.Common;
using Sexton.Server.Versions;

namespace Sexton.Server.Shoppers;

/// <summary>The shopper's account: signing in by a one-time link.</summary>
internal static class ShopperEndpoints
{
    public static void MapShoppers(this IEndpointRouteBuilder selling)
    {
        selling
            .MapPost(
                "account/links",
                async (
                    LinkRequest request,
                    HttpContext http,
                    RequestLimits limits,
                    SignInLinks links,
                    IShopSpeech shop,
                    SextonOptions options,
                    CancellationToken cancel
                ) =>
                {
                    await limits.PassAsync(LimitedWork.Links, http, cancel);
                    await links.SendAsync(request.Email, key => shop.Say(http, key, options.ShopName), cancel);
                    return TypedResults.NoContent();
                }
            )
            .WithName("SendSignInLink");
        selling.MapPost("account/session", SignInAsync).WithName("SignInShopper");
        selling.MapGet("account/session", ReadAsync).WithName("GetShopper");
        selling
            .MapDelete(
                "account/session",
                async (ShopperSession session, CancellationToken cancel) =>
                {
                    await session.SignOutAsync(cancel);
                    return TypedResults.NoContent();
                }
            )
            .WithName("SignOutShopper");
    }

    private static async Task<ShopperView> SignInAsync(
        TakeLinkRequest request,
        SignInLinks links,
        ShopperSession session,
        CurrentRegister current,
        CancellationToken cancel
    )
    {
        var shopper = await links.TakeAsync(request.Token, cancel);
        await session.SignInAsync(shopper);
        return await ViewAsync(shopper, current, cancel);
    }

    private static async Task<ShopperView> ReadAsync(ShopperSession session, CurrentRegister current, CancellationToken cancel) =>
        await ViewAsync(await session.FindAsync(cancel), current, cancel);

    private static async Task<ShopperView> ViewAsync(ShopperRow? shopper, CurrentRegister current, CancellationToken cancel)
    {
        var products = await current.ProductsAsync(cancel);
        var group = products.GroupOf(shopper?.Group);
        return new ShopperView(shopper?.Email, products.Groups.FirstOrDefault(g => g.Key == group)?.Name.ToString() ?? "");
    }
}

/// <summary>Asks for a one-time link.</summary>
/// <param name="Email">The e-mail address.</param>
internal sealed record LinkRequest(string Email);

/// <summary>Takes a one-time link.</summary>
/// <param name="Token">The last part of the link.</param>
internal sealed record TakeLinkRequest(string Token);

/// <summary>Who is signed in.</summary>
/// <param name="Email">The e-mail address, or null when nobody is.</param>
/// <param name="Group">The name of the shopper group.</param>
internal sealed record ShopperView(string? Email, string Group);
