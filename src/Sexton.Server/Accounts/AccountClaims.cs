using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;
using Sexton.Data.Rows;

namespace Sexton.Server.Accounts;

/// <summary>What a session of staff says of its account: besides the usual, the name by which others know them.</summary>
internal sealed class AccountClaims(UserManager<Account> accounts, RoleManager<IdentityRole<Guid>> roles, IOptions<IdentityOptions> options)
    : UserClaimsPrincipalFactory<Account, IdentityRole<Guid>>(accounts, roles, options)
{
    /// <summary>The claim of the name.</summary>
    public const string Name = "display_name";

    /// <summary>Reads the account of a session anew with every request: one that was signed out has ended, and a role counts as it is now.</summary>
    public static async Task RenewAsync(CookieValidatePrincipalContext context)
    {
        var signIn = context.HttpContext.RequestServices.GetRequiredService<SignInManager<Account>>();
        if (await signIn.ValidateSecurityStampAsync(context.Principal) is { } account)
        {
            context.ReplacePrincipal(await signIn.CreateUserPrincipalAsync(account));
        }
        else
        {
            context.RejectPrincipal();
            await context.HttpContext.SignOutAsync(IdentityConstants.ApplicationScheme);
        }
    }

    /// <inheritdoc/>
    protected override async Task<ClaimsIdentity> GenerateClaimsAsync(Account user)
    {
        var identity = await base.GenerateClaimsAsync(user);
        identity.AddClaim(new Claim(Name, user.DisplayName));
        return identity;
    }
}
