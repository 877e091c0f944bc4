using Microsoft.EntityFrameworkCore;
using Sexton.Core.Trail;
using Sexton.Data;
using Sexton.Data.Queue;
using Sexton.Data.Rows;
using Sexton.Destinations;
using Sexton.Server.Common;

namespace Sexton.Server.Makers;

/// <summary>The tables of item codes, one for each destination that has codes of its own; and the deliveries that wait for a match.</summary>
internal sealed class ItemCodesThere(SextonDb db)
{
    /// <summary>The codes of a destination, by those of the shop.</summary>
    /// <param name="destination">Its key.</param>
    /// <param name="cancel">Cancels.</param>
    public Task<Dictionary<string, string>> OfAsync(string destination, CancellationToken cancel) =>
        db
            .ItemCodesThere.AsNoTracking()
            .Where(c => c.Destination == destination)
            .ToDictionaryAsync(static c => c.Item, static c => c.Code, StringComparer.Ordinal, cancel);

    /// <summary>What is sent, with the codes of the destination where it has some of its own.</summary>
    /// <param name="sent">What is sent.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<SentOrder> FillInAsync(SentOrder sent, CancellationToken cancel) =>
        sent.To.Kind.HasCodesOfItsOwn(sent.To.Settings) ? sent with { CodesThere = await OfAsync(sent.To.Key, cancel) } : sent;

    /// <summary>Which codes wait for a match, and of which orders.</summary>
    /// <param name="destination">The key of the destination.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<IReadOnlyList<MissingCode>> MissingAsync(string destination, CancellationToken cancel) =>
        [
            .. (
                await db
                    .Lanes.Where(l => l.Destination == destination && l.MissingCode != null && l.State == DeliveryState.NeedsAttention)
                    .Join(db.Orders, static l => l.OrderId, static o => o.Id, static (l, o) => new { l.MissingCode, o.Number })
                    .Distinct()
                    .OrderBy(static m => m.Number)
                    .ToListAsync(cancel)
            )
                .GroupBy(static m => m.MissingCode!, static m => m.Number, StringComparer.Ordinal)
                .Select(static g => new MissingCode(g.Key, [.. g])),
        ];

    /// <summary>
    /// Sets matches, all or none: what is not named stays, and an empty code takes a match out. What waited for a match goes.
    /// </summary>
    /// <param name="destination">The key of the destination.</param>
    /// <param name="matches">The codes there by the item codes of the shop.</param>
    /// <param name="now">The time.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<MatchCount> SetAsync(
        string destination,
        IReadOnlyDictionary<string, string> matches,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        if (!await db.DraftItems.AnyAsync(i => i.Kind == DraftItemKind.Destination && i.Key == destination, cancel))
        {
            throw ApiProblemException.NotFound($"There is no destination “{destination}”.");
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);

        // Two who set matches of one destination at once come one after the other.
        await db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock(hashtextextended({"item codes " + destination}, 0))", cancel);
        var rows = await db.ItemCodesThere.Where(c => c.Destination == destination).ToDictionaryAsync(static c => c.Item, cancel);
        var (added, changed, removed) = (0, 0, 0);
        foreach (var (item, code) in matches)
        {
            var row = rows.GetValueOrDefault(item);
            if (row is null && code.Length > 0)
            {
                db.ItemCodesThere.Add(
                    new ItemCodeThereRow
                    {
                        Destination = destination,
                        Item = item,
                        Code = code,
                    }
                );
                added++;
            }
            else if (row is not null && code.Length == 0)
            {
                db.ItemCodesThere.Remove(row);
                removed++;
            }
            else if (row is not null && row.Code != code)
            {
                row.Code = code;
                changed++;
            }
        }

        await db.SaveChangesAsync(cancel);
        var going = await WakeAsync(destination, now, cancel);
        await transaction.CommitAsync(cancel);
        return new MatchCount(added, changed, removed, going);
    }

    /// <summary>Lets go what waited for a match that is there now.</summary>
    /// <param name="destination">The key of the destination.</param>
    /// <param name="now">The time.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>How many deliveries.</returns>
    public Task<int> WakeAsync(string destination, DateTimeOffset now, CancellationToken cancel) =>
        db
            .Lanes.Where(l =>
                l.Destination == destination
                && l.State == DeliveryState.NeedsAttention
                && db.ItemCodesThere.Any(c => c.Destination == destination && c.Item == l.MissingCode)
            )
            .GoAgainAsync(now, cancel);
}

/// <summary>An item code that waits for a match.</summary>
/// <param name="Item">The item code of the shop.</param>
/// <param name="Orders">The numbers of the orders that wait for it.</param>
internal sealed record MissingCode(string Item, IReadOnlyList<long> Orders);

/// <summary>What setting matches did.</summary>
/// <param name="Added">How many are new.</param>
/// <param name="Changed">How many say something else.</param>
/// <param name="Removed">How many were taken out.</param>
/// <param name="Going">How many deliveries go that waited.</param>
internal sealed record MatchCount(int Added, int Changed, int Removed, int Going);
