using System.Security.Claims;
using Microsoft.AspNetCore.Identity;
using Sexton.Data.Rows;
using Sexton.Server.Hosting;

namespace Sexton.Server.Accounts;

/// <summary>Signing in and out.</summary>
internal static class SessionEndpoints
{
    public static void MapSession(this IEndpointRouteBuilder console)
    {
        console.MapGet("session", ReadAsync).WithName("GetSession");
        console.MapPost("session", SignInAsync).WithName("SignIn");
        console.MapDelete("session", async (SignInManager<Account> accounts) =>
        {
            await accounts.SignOutAsync();
            return TypedResults.NoContent();
        }).WithName("SignOut");
    }

    private static async Task<SessionView> ReadAsync(ClaimsPrincipal user, UserManager<Account> accounts, SextonOptions options) =>
        await accounts.GetUserAsync(user) is { } account
            ? new SessionView(options.ShopName, account.DisplayName, [.. await accounts.GetRolesAsync(account)])
            : new SessionView(options.ShopName, null, []);

    private static async Task<SessionView> SignInAsync(SignInRequest request, SignInManager<Account> signIn, UserManager<Account> accounts, SextonOptions options)
    {
        var account = await accounts.FindByEmailAsync(request.Email.Trim());
        var result = account is null
            ? SignInResult.Failed
            : await signIn.PasswordSignInAsync(account, request.Password, isPersistent: false, lockoutOnFailure: true);
        if (result.IsLockedOut)
        {
            throw ApiProblemException.Unprocessable("locked_out", "Too many tries. Wait five minutes, then try again.");
        }

        return result.Succeeded
            ? new SessionView(options.ShopName, account!.DisplayName, [.. await accounts.GetRolesAsync(account)])
            : throw ApiProblemException.Unprocessable("sign_in_refused", "The address or the password is not right.");
    }
}

/// <summary>Who is signed in.</summary>
/// <param name="Shop">The name of the shop.</param>
/// <param name="Name">The name of the person, or null when nobody is.</param>
/// <param name="Roles">The roles.</param>
internal sealed record SessionView(string Shop, string? Name, IReadOnlyList<string> Roles);

/// <summary>Signs in.</summary>
/// <param name="Email">The e-mail address of the account.</param>
/// <param name="Password">The password.</param>
internal sealed record SignInRequest(string Email, string Password);
