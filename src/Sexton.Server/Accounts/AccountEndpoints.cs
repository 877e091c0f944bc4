using System.Security.Claims;

namespace Sexton.Server.Accounts;

/// <summary>The accounts of staff.</summary>
internal static class AccountEndpoints
{
    public static void MapAccounts(this IEndpointRouteBuilder shop)
    {
        shop.MapGet("accounts", static (AccountKeeper keeper, CancellationToken cancel) => keeper.ListAsync(cancel))
            .WithName("GetAccounts");
        shop.MapPost(
                "accounts",
                static async (NewAccount made, ClaimsPrincipal user, AccountKeeper keeper, CancellationToken cancel) =>
                {
                    await keeper.MakeAsync(made, user, cancel);
                    return TypedResults.NoContent();
                }
            )
            .WithName("MakeAccount");
        shop.MapPut(
                "accounts/{id:guid}",
                static async (Guid id, AccountChange change, ClaimsPrincipal user, AccountKeeper keeper, CancellationToken cancel) =>
                {
                    await keeper.ChangeAsync(id, change, user, cancel);
                    return TypedResults.NoContent();
                }
            )
            .WithName("ChangeAccount");
        shop.MapPut(
                "accounts/{id:guid}/password",
                static async (Guid id, PasswordRequest request, ClaimsPrincipal user, AccountKeeper keeper, CancellationToken cancel) =>
                {
                    await keeper.ResetAsync(id, request.Password, user, cancel);
                    return TypedResults.NoContent();
                }
            )
            .WithName("ResetPassword");
    }
}
