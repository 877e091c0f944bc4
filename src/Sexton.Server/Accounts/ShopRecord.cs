using System.Security.Claims;
using Sexton.Data;
using Sexton.Data.Rows;

namespace Sexton.Server.Accounts;

/// <summary>Puts on record what is changed of the shop, together with the change itself.</summary>
internal sealed class ShopRecord(SextonDb db, TimeProvider clock)
{
    /// <summary>Writes a change, to be saved with it.</summary>
    /// <param name="user">Who changes it.</param>
    /// <param name="what">What, as it follows a name: "made the connection …". Never a secret.</param>
    public void Write(ClaimsPrincipal user, string what)
    {
        var actor = Actor.Of(user);
        db.ShopChanges.Add(
            new ShopChangeRow
            {
                At = clock.GetUtcNow(),
                Account = actor.Id,
                Name = actor.Name,
                What = what,
            }
        );
    }
}
