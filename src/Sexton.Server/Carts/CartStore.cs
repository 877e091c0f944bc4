using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Cart;
using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Projections;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Files;
using Sexton.Data.Queue;
using Sexton.Data.Rows;
using Sexton.Data.Sealing;
using Sexton.Server.Common;
using Sexton.Server.Shoppers;
using Sexton.Server.Speech;
using Sexton.Server.Versions;

namespace Sexton.Server.Carts;

/// <summary>
/// The cart of the shopper who makes the request, known by a cookie that holds its random id. What is bought at once has a cart of its
/// own, so that the other one stays as it is; a request says so with the header "Sexton-Cart: at_once".
/// </summary>
internal sealed class CartStore(
    SextonDb db,
    KeyVault vault,
    FileStore files,
    IHttpContextAccessor http,
    ShopperSession shopper,
    PublishedKeys published,
    RequestLimits limits,
    ShopLanguage languages,
    TimeProvider clock
)
{
    private const string Kept = "sexton_cart",
        AtOnce = "sexton_at_once",
        Purpose = "cart";

    // The cookie of a cart made just now is only on its way to the browser.
    private Guid _created;

    private string Cookie => http.HttpContext!.Request.Headers["Sexton-Cart"] == "at_once" ? AtOnce : Kept;

    /// <summary>The ids of all carts of the shopper: a file that was chosen for one may end up in the other.</summary>
    public IReadOnlyList<Guid> Ids =>
        [
            .. new[] { Kept, AtOnce }
                .Select(name => Guid.TryParse(http.HttpContext!.Request.Cookies[name], out var id) ? id : Guid.Empty)
                .Append(_created)
                .Where(static id => id != Guid.Empty),
        ];

    /// <summary>A cart with nothing in it, in the language in which the shopper is spoken to.</summary>
    public CartContent Empty => CartContent.Empty with { Language = languages.Of(http.HttpContext!) };

    /// <summary>The open cart, made where there is none.</summary>
    public async Task<CartRow> FindOrCreateAsync(CancellationToken cancel)
    {
        var row = await FindAsync(cancel) ?? await CreateAsync(cancel);
        await db.SaveChangesAsync(cancel);
        return row;
    }

    /// <summary>The open cart, or null when there is none yet or the last one became an order.</summary>
    public async Task<CartRow?> FindAsync(CancellationToken cancel) =>
        Guid.TryParse(http.HttpContext!.Request.Cookies[Cookie], out var id)
            ? await db.Carts.FirstOrDefaultAsync(c => c.Id == id && c.OrderId == null, cancel)
            : null;

    /// <summary>The cart of the request whether open or ordered, or null.</summary>
    public async Task<CartRow?> FindAnyAsync(CancellationToken cancel) =>
        Guid.TryParse(http.HttpContext!.Request.Cookies[Cookie], out var id) ? await db.Carts.FindAsync([id], cancel) : null;

    /// <summary>Changes the cart, making one where there is none.</summary>
    /// <param name="change">The change.</param>
    /// <param name="stepReached">The key of the step that the shopper is at.</param>
    /// <param name="steps">All steps, for telling which comes later.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<CartRow> ChangeAsync(
        Func<CartContent, CartContent> change,
        string stepReached,
        RegisterPlan steps,
        CancellationToken cancel
    )
    {
        // The row is locked, as an attempt locks it: a change is in the order, or it is refused, or it makes a new cart.
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var row = await FindAsync(cancel);
        if (row is not null)
        {
            await db.Database.ExecuteSqlAsync($"select 1 from carts where id = {row.Id} for update", cancel);
            await db.Entry(row).ReloadAsync(cancel);
            if (await db.Attempts.AnyAsync(a => a.CartId == row.Id && a.State == AttemptState.Paying, cancel))
            {
                throw ApiProblemException.Said(StatusCodes.Status409Conflict, "being_paid", "being_paid_now");
            }
        }

        row = row is { OrderId: null } ? row : await CreateAsync(cancel);
        var before = Parse(row);
        var after = change(before);
        await CheckAsync(after, steps, cancel);
        row.Content = Seal(after, row);
        row.Files = [.. steps.FilesIn(after).Select(static id => Guid.TryParse(id, out var file) ? file : Guid.Empty)];
        row.Revision += before == after ? 0 : 1;
        row.ChangedAt = clock.GetUtcNow();
        row.StepReached = steps.IndexOfStep(stepReached) > steps.IndexOfStep(row.StepReached) ? stepReached : row.StepReached;
        await db.SaveChangesAsync(cancel);
        await TakeFilesAsync(row.Id, steps.FilesIn(after), cancel);
        await transaction.CommitAsync(cancel);
        return row;
    }

    /// <summary>The content of a cart, with the group that its shopper has now, in the language in which the shopper is spoken to.</summary>
    public async Task<CartContent> ReadAsync(CartRow row, CancellationToken cancel) =>
        Parse(row) with
        {
            Group = await shopper.GroupAsync(cancel),
        };

    /// <summary>Puts on record what the cart page showed.</summary>
    public async Task ShownAsync(CartRow row, byte[] served, Projection projection, CancellationToken cancel)
    {
        var key = vault.Open(row.Key);
        var (artefact, expected) = (StoredPayload.SealArtefact(served, key), StoredPayload.Seal(projection, [], key));
        await db
            .Carts.Where(c => c.Id == row.Id && c.Revision == row.Revision && c.OrderId == null)
            .ExecuteUpdateAsync(
                set =>
                    set.SetProperty(c => c.Shown, artefact)
                        .SetProperty(c => c.ShownProjection, expected)
                        .SetProperty(c => c.ShownAt, clock.GetUtcNow()),
                cancel
            );
    }

    private async Task TakeFilesAsync(Guid cart, IReadOnlyList<string> ids, CancellationToken cancel)
    {
        var others = Ids.Where(id => id != cart).ToList();
        if (ids.Count > 0 && others.Count > 0)
        {
            await files.TakeAsync([.. ids.Select(static id => Guid.TryParse(id, out var file) ? file : Guid.Empty)], others, cart, cancel);
        }
    }

    private CartContent Parse(CartRow row)
    {
        // One that was ordered was emptied.
        var content =
            row.Content.Length == 0
                ? CartContent.Empty
                : JsonSerializer.Deserialize<CartContent>(vault.Open(row.Key).Open(row.Content, Purpose), DocumentJson.Options)!;
        return content with { Language = languages.Of(http.HttpContext!) };
    }

    private byte[] Seal(CartContent content, CartRow row)
    {
        var key = vault.Open(row.Key);
        return key.SealPacked(JsonSerializer.SerializeToUtf8Bytes(content, DocumentJson.Options), Purpose);
    }

    // A form of an older version may answer what is gone since: that stays and counts for nothing. A key that no version ever had is none of ours.
    private async Task CheckAsync(CartContent cart, RegisterPlan plan, CancellationToken cancel)
    {
        cart.CheckShape();
        if (plan.UnknownKeys(cart).ToList() is { Count: > 0 } unknown)
        {
            var ever = await published.SinceAsync(cancel);
            if (unknown.Find(key => !ever.ContainsKey(key)) is { } never)
            {
                throw new CartException("no_such_question", never.Length > FieldKey.Longest ? never[..FieldKey.Longest] + "…" : never);
            }
        }
    }

    // Each cart takes room, and whoever sends no cookie back gets one with every request.
    private async Task<CartRow> CreateAsync(CancellationToken cancel)
    {
        await limits.PassAsync(LimitedWork.Carts, http.HttpContext!, cancel);
        return Create();
    }

    private CartRow Create()
    {
        var row = new CartRow
        {
            Id = Guid.NewGuid(),
            Key = vault.Make().Wrapped,
            Content = [],
            Revision = 0,
            StepReached = Step.ProductPage.Key,
            ChangedAt = clock.GetUtcNow(),
        };
        db.Carts.Add(row);
        _created = row.Id;
        http.HttpContext!.Response.Cookies.Append(
            Cookie,
            row.Id.ToString(),
            new CookieOptions
            {
                HttpOnly = true,
                SameSite = SameSiteMode.Lax,
                Secure = http.HttpContext.Request.IsHttps,
                MaxAge = TimeSpan.FromDays(30),
                IsEssential = true,
            }
        );
        return row;
    }
}
