using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using Microsoft.EntityFrameworkCore;
using Sexton.Data;
using Sexton.Data.Rows;

namespace Sexton.Server.Shoppers;

/// <summary>Who of the shoppers makes the request. Kept apart from the sessions of staff: both can be signed in in one browser.</summary>
internal sealed class ShopperSession(IHttpContextAccessor http, SextonDb db)
{
    /// <summary>The name of the authentication scheme.</summary>
    public const string Scheme = "shopper";

    /// <summary>The name of its cookie.</summary>
    public const string Cookie = "sexton_shopper";

    private const string StampClaim = "stamp";

    private bool _read;
    private ShopperRow? _shopper;

    /// <summary>The account of the shopper, or null without one. Read from the database, so that a changed group counts at once.</summary>
    public async ValueTask<ShopperRow?> FindAsync(CancellationToken cancel)
    {
        if (!_read)
        {
            _shopper = http.HttpContext!.Request.Cookies.ContainsKey(Cookie) ? await ReadAsync(http.HttpContext, cancel) : null;
            _read = true;
        }

        return _shopper;
    }

    /// <summary>The key of the shopper's group; "" without an account. Costs nothing where nobody is signed in.</summary>
    public async ValueTask<string> GroupAsync(CancellationToken cancel) => (await FindAsync(cancel))?.Group ?? "";

    public async Task SignInAsync(ShopperRow shopper)
    {
        var identity = new ClaimsIdentity(
            [new Claim(ClaimTypes.NameIdentifier, shopper.Id.ToString()), new Claim(StampClaim, shopper.Stamp.ToString())],
            Scheme
        );
        await http.HttpContext!.SignInAsync(Scheme, new ClaimsPrincipal(identity), new AuthenticationProperties { IsPersistent = true });
        (_read, _shopper) = (true, shopper);
    }

    /// <summary>Signs out, here and wherever else the account is signed in.</summary>
    public async Task SignOutAsync(CancellationToken cancel)
    {
        if (await FindAsync(cancel) is { } shopper)
        {
            await db
                .Shoppers.Where(s => s.Id == shopper.Id)
                .ExecuteUpdateAsync(set => set.SetProperty(s => s.Stamp, Guid.NewGuid()), cancel);
        }

        await http.HttpContext!.SignOutAsync(Scheme);
    }

    private async Task<ShopperRow?> ReadAsync(HttpContext context, CancellationToken cancel)
    {
        var known = await context.AuthenticateAsync(Scheme);
        return
            known.Succeeded
            && Guid.TryParse(known.Principal.FindFirstValue(ClaimTypes.NameIdentifier), out var id)
            && Guid.TryParse(known.Principal.FindFirstValue(StampClaim), out var stamp)
            ? await db.Shoppers.AsNoTracking().FirstOrDefaultAsync(s => s.Id == id && s.Stamp == stamp, cancel)
            : null;
    }
}
