using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Catalogue;
using Sexton.Core.Register;
using Sexton.Data.Rows;
using Sexton.Server.Accounts;
using Sexton.Server.Common;

namespace Sexton.Server.Fields;

/// <summary>What of the draft is put back to what is in force, whole or clause by clause.</summary>
internal sealed partial class DraftStore
{
    /// <summary>Puts something back to what is in force: what is new goes, what was taken out comes back. It is a change like any other, and can be undone.</summary>
    /// <param name="key">Its key.</param>
    /// <param name="revision">The revision that was looked at; of no matter where the draft has nothing of that key.</param>
    /// <param name="inForce">What is in force.</param>
    /// <param name="products">What the shop sells.</param>
    /// <param name="actor">Who does it.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task PutBackAsync(
        string key,
        int revision,
        RegisterContent inForce,
        ProductIndex products,
        Actor actor,
        CancellationToken cancel
    )
    {
        var rows = DraftItems.Of(inForce).ToList();
        var at = rows.FindIndex(r => r.Key == key);
        if (at >= 0 && await db.DraftItems.FindAsync([key], cancel) is null)
        {
            var (then, there) = (rows[at], (await RowsAsync(cancel)).Select(static r => r.Key).ToHashSet(StringComparer.Ordinal));
            DraftGuards.CheckSurroundings(then.Kind, key, then.Definition, await ReadAsync(cancel));
            var next = rows.Skip(at + 1).FirstOrDefault(r => r.Kind == then.Kind && there.Contains(r.Key))?.Key;
            await InsertAsync(then.Kind, key, then.Definition, next, actor, undoes: false, cancel);
        }
        else
        {
            var row = await FindAsync(key, revision, cancel);
            if (at < 0)
            {
                await TakeAwayAsync(row, actor, undoes: false, cancel);
            }
            else
            {
                var moved = ClausesOf(key, inForce, await ReadAsync(cancel), products).Contains(RegisterDifference.AnotherPlace);
                DraftGuards.CheckSurroundings(row.Kind, key, rows[at].Definition, await ReadAsync(cancel));
                await WriteAsync(row, rows[at].Definition, AsInForce, actor, undoes: false, cancel);
                if (moved)
                {
                    await MoveBackAsync(row, rows, actor, cancel);
                }
            }
        }

        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Puts one clause of what differs back to what is in force.</summary>
    /// <param name="key">The key of what it is a clause of.</param>
    /// <param name="revision">The revision that was looked at.</param>
    /// <param name="clause">The clause as it was told.</param>
    /// <param name="inForce">What is in force.</param>
    /// <param name="products">What the shop sells.</param>
    /// <param name="actor">Who does it.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task PutBackAsync(
        string key,
        int revision,
        ClauseChange clause,
        RegisterContent inForce,
        ProductIndex products,
        Actor actor,
        CancellationToken cancel
    )
    {
        var row = await FindAsync(key, revision, cancel);
        var then = DraftItems.Of(inForce).ToList();
        if (clause == RegisterDifference.AnotherPlace)
        {
            await MoveBackAsync(row, then, actor, cancel);
        }
        else
        {
            var all = await RowsAsync(cancel);
            var back = then.Find(r => r.Key == key) is { } before
                ? ClauseBack.Of(
                    JsonNode.Parse(before.Definition)!.AsObject(),
                    JsonNode.Parse(row.Definition)!.AsObject(),
                    clause,
                    definition => ClausesOf(key, inForce, DraftItems.With(all, row, definition.ToJsonString()), products)
                )
                : null;
            var definition = DraftItems.Tidy(
                row.Kind,
                back?.ToJsonString()
                    ?? throw ApiProblemException.Conflict("changed_since", "That is no longer what differs. Look at the difference again.")
            );
            DraftGuards.CheckSurroundings(row.Kind, key, definition, DraftItems.Register(all));
            await WriteAsync(row, definition, AsInForce, actor, undoes: false, cancel);
        }

        await db.SaveChangesAsync(cancel);
    }

    private ImmutableArray<ClauseChange> ClausesOf(string key, RegisterContent inForce, RegisterContent register, ProductIndex products) =>
        Difference(inForce, register, products).FirstOrDefault(c => c.Field == key)?.Clauses ?? [];

    // Before what it stands before in force, as far as the draft has that.
    private async Task MoveBackAsync(DraftItemRow row, List<DraftItemRow> inForce, Actor actor, CancellationToken cancel)
    {
        var there = (await RowsAsync(cancel)).Select(static r => r.Key).ToHashSet(StringComparer.Ordinal);
        var next = inForce.SkipWhile(r => r.Key != row.Key).Skip(1).FirstOrDefault(r => r.Kind == row.Kind && there.Contains(r.Key));
        await MoveAsync(row, JsonSerializer.SerializeToElement(next?.Key), actor, cancel);
    }
}
