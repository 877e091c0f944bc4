using System.Security.Claims;

namespace Sexton.Server.Accounts;

/// <summary>Who changes the draft.</summary>
/// <param name="Id">The id of the account.</param>
/// <param name="Name">The name by which others know them.</param>
internal sealed record Actor(string Id, string Name)
{
    /// <summary>The account of a session of staff.</summary>
    public static Actor Of(ClaimsPrincipal user) =>
        new(user.FindFirstValue(ClaimTypes.NameIdentifier)!, user.FindFirstValue(AccountClaims.Name)!);
}
