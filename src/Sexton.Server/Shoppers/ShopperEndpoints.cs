using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Register;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Destinations.Pages;
using Sexton.Server.Files;
using Sexton.Server.Hosting;
using Sexton.Server.Orders;
using Sexton.Server.Shop;
using Sexton.Server.Versions;

namespace Sexton.Server.Shoppers;

/// <summary>The shopper's account: signing in by a one-time link, and the orders with their answers.</summary>
internal static class ShopperEndpoints
{
    private const int PageSize = 50;

    public static void MapShoppers(this IEndpointRouteBuilder shop)
    {
        shop.MapPost(
                "account/links",
                async (LinkRequest request, HttpContext http, RequestLimits limits, SignInLinks links, CancellationToken cancel) =>
                {
                    await limits.PassAsync(LimitedWork.Links, http, cancel);
                    await links.SendAsync(request.Email, cancel);
                    return TypedResults.NoContent();
                }
            )
            .WithName("SendSignInLink");
        shop.MapPost("account/session", SignInAsync).WithName("SignInShopper");
        shop.MapGet("account/session", ReadAsync).WithName("GetShopper");
        shop.MapDelete(
                "account/session",
                async (ShopperSession session, CancellationToken cancel) =>
                {
                    await session.SignOutAsync(cancel);
                    return TypedResults.NoContent();
                }
            )
            .WithName("SignOutShopper");
        shop.MapGet("account/orders", OrdersAsync).WithName("GetShopperOrders");
        shop.MapGet("account/orders/{number:long}", OrderAsync).WithName("GetShopperOrder").Produces<OrderPageView>();
        FileEndpoints.MapOfOrder(
            shop,
            "account/orders/{number:long}",
            "Account",
            async (http, cancel) =>
                (
                    await FindAsync(
                        long.Parse((string)http.GetRouteValue("number")!, CultureInfo.InvariantCulture),
                        http.RequestServices.GetRequiredService<ShopperSession>(),
                        http.RequestServices.GetRequiredService<SextonDb>(),
                        http.RequestServices.GetRequiredService<OrderReader>(),
                        cancel
                    )
                ).Id
        );
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

    private static async Task<IReadOnlyList<ShopperOrderView>> OrdersAsync(ShopperSession session, SextonDb db, CancellationToken cancel)
    {
        var shopper = await SignedInAsync(session, cancel);
        var orders = await Of(shopper, db)
            .OrderByDescending(o => o.Order.Number)
            .Take(PageSize)
            .Select(o => new
            {
                o.Order.Number,
                o.Order.PlacedAt,
                o.Revision.TotalMinor,
                o.Order.Currency,
                o.Revision.Language,
                Lines = db
                    .OrderLines.Where(l => l.RevisionId == o.Revision.Id)
                    .OrderBy(l => l.Position)
                    .Select(l => l.ProductName)
                    .ToList(),
            })
            .ToListAsync(cancel);
        return
        [
            .. orders.Select(static o => new ShopperOrderView(
                o.Number,
                o.PlacedAt,
                string.Join(", ", o.Lines),
                MoneyText.Format(o.TotalMinor, o.Currency, o.Language)
            )),
        ];
    }

    private static async Task<IResult> OrderAsync(
        long number,
        ShopperSession session,
        SextonDb db,
        OrderReader orders,
        PageViews pageViews,
        CancellationToken cancel
    ) => await pageViews.ServeAsync(await FindAsync(number, session, db, orders, cancel), PageKind.Account.Key, cancel);

    private static async Task<StoredOrder> FindAsync(
        long number,
        ShopperSession session,
        SextonDb db,
        OrderReader orders,
        CancellationToken cancel
    )
    {
        var shopper = await SignedInAsync(session, cancel);
        var own = await Of(shopper, db).AnyAsync(o => o.Order.Number == number, cancel);
        return (own ? await orders.FindAsync(number, cancel) : null)
            ?? throw ApiProblemException.NotFound($"There is no order {number} in your account.");
    }

    // Whoever opened a link has shown that the address is theirs, so orders placed with it before belong to the account too.
    // However its letters were typed: the address of an account is kept in small letters. The database makes them small, and has no culture.
#pragma warning disable MA0011
    private static IQueryable<OrderHead> Of(ShopperRow shopper, SextonDb db) =>
        db
            .OrderHeads.AsNoTracking()
            .Where(o =>
                o.Order.ShopperId == shopper.Id
                || db.Answers.Any(a =>
                    a.RevisionId == o.Revision.Id && a.LineId == "" && a.Field == BuiltInFields.Email && a.Text.ToLower() == shopper.Email
                )
            );
#pragma warning restore MA0011

    private static async Task<ShopperRow> SignedInAsync(ShopperSession session, CancellationToken cancel) =>
        await session.FindAsync(cancel) ?? throw new ApiProblemException(StatusCodes.Status401Unauthorized, "signed_out", "Sign in first.");
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

/// <summary>An order in the account's list.</summary>
internal sealed record ShopperOrderView(long Number, DateTimeOffset PlacedAt, string Lines, string Total);
