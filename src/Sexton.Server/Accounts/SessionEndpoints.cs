using System.Security.Claims;
using Microsoft.AspNetCore.Identity;
using Sexton.Data.Rows;
using Sexton.Server.Common;

namespace Sexton.Server.Accounts;

/// <summary>Signing in and out.</summary>
internal static class SessionEndpoints
{
    private static readonly string NobodysHash = new PasswordHasher<Account>().HashPassword(
        new Account { DisplayName = "" },
        Guid.NewGuid().ToString()
    );

    public static void MapSession(this IEndpointRouteBuilder console)
    {
        console.MapGet("session", ReadAsync).WithName("GetSession");
        console.MapPost("session", SignInAsync).WithName("SignIn");
        console.MapDelete("session", SignOutAsync).WithName("SignOut");
    }

    private static async Task<SessionView> ReadAsync(ClaimsPrincipal user, UserManager<Account> accounts, SextonOptions options) =>
        await accounts.GetUserAsync(user) is { } account
            ? SessionView.Of(options.ShopName, account.DisplayName, await accounts.GetRolesAsync(account))
            : SessionView.Of(options.ShopName, null, []);

    // Wrong tries slow down whoever makes them, and nobody else: the owner of the account is never locked out of it.
    private static async Task<SessionView> SignInAsync(
        SignInRequest request,
        HttpContext http,
        RequestLimits limits,
        SignInManager<Account> signIn,
        UserManager<Account> accounts,
        SextonOptions options,
        CancellationToken cancel
    )
    {
        var email = request.Email.Trim();
        await limits.PassAsync(LimitedWork.SignIns, http, cancel, email.ToUpperInvariant());
        var account = await accounts.FindByEmailAsync(email);
        var result = account is null
            ? HashAnyway(request.Password, accounts)
            : await signIn.PasswordSignInAsync(account, request.Password, isPersistent: false, lockoutOnFailure: false);
        if (result.IsLockedOut)
        {
            HashAnyway(request.Password, accounts);
        }

        return result.Succeeded
            ? SessionView.Of(options.ShopName, account!.DisplayName, await accounts.GetRolesAsync(account))
            : throw ApiProblemException.Unprocessable("sign_in_refused", "The address or the password is not right.");
    }

    // As much work as for an address that is known, so that the time does not tell which are.
    private static SignInResult HashAnyway(string password, UserManager<Account> accounts)
    {
        var nobody = new Account { DisplayName = "" };
        accounts.PasswordHasher.VerifyHashedPassword(nobody, NobodysHash, password);
        return SignInResult.Failed;
    }

    // Wherever else this session is copied to, it has ended too.
    private static async Task<IResult> SignOutAsync(ClaimsPrincipal user, SignInManager<Account> signIn, UserManager<Account> accounts)
    {
        if (await accounts.GetUserAsync(user) is { } account)
        {
            await accounts.UpdateSecurityStampAsync(account);
        }

        await signIn.SignOutAsync();
        return TypedResults.NoContent();
    }
}

/// <summary>Who is signed in.</summary>
/// <param name="Shop">The name of the shop.</param>
/// <param name="Name">The name of the person, or null when nobody is.</param>
/// <param name="Roles">The roles.</param>
/// <param name="Rights">What these may do.</param>
internal sealed record SessionView(string Shop, string? Name, IReadOnlyList<string> Roles, IReadOnlyList<string> Rights)
{
    public static SessionView Of(string shop, string? name, IList<string> roles) => new(shop, name, [.. roles], Accounts.Rights.Of(roles));
}

/// <summary>Signs in.</summary>
/// <param name="Email">The e-mail address of the account.</param>
/// <param name="Password">The password.</param>
internal sealed record SignInRequest(string Email, string Password);
