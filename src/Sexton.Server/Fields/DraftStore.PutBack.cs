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
        var (then, all) = (DraftItems.Of(inForce).ToList(), await RowsAsync(cancel));
        var register = DraftItems.Register(all);
        var before = then.Find(r => r.Key == key);
        if (before is null)
        {
            await TakeAwayAsync(await FindAsync(key, revision, cancel), actor, undoes: false, cancel);
        }
        else if (!all.Exists(r => r.Key == key))
        {
            DraftGuards.CheckSurroundings(before.Kind, key, before.Definition, register);
            await InsertAsync(before.Kind, key, before.Definition, NextOf(key, then, all), actor, undoes: false, cancel);
        }
        else
        {
            var row = await FindAsync(key, revision, cancel);
            DraftGuards.CheckSurroundings(row.Kind, key, before.Definition, register);
            var moved = ClausesOf(key, inForce, register, products).Contains(RegisterDifference.AnotherPlace);
            await WriteAsync(row, before.Definition, AsInForce, actor, undoes: false, cancel);
            if (moved)
            {
                await MoveBackAsync(row, then, all, actor, cancel);
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
        var (then, all) = (DraftItems.Of(inForce).ToList(), await RowsAsync(cancel));
        if (clause == RegisterDifference.AnotherPlace)
        {
            await MoveBackAsync(row, then, all, actor, cancel);
        }
        else
        {
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

    private Task MoveBackAsync(
        DraftItemRow row,
        List<DraftItemRow> inForce,
        List<DraftItemRow> draft,
        Actor actor,
        CancellationToken cancel
    ) => MoveAsync(row, JsonSerializer.SerializeToElement(NextOf(row.Key, inForce, draft)), actor, cancel);

    // Before what it stands in force, as far as the draft has that; null for the end.
    private static string? NextOf(string key, List<DraftItemRow> inForce, List<DraftItemRow> draft)
    {
        var there = draft.Select(static r => r.Key).ToHashSet(StringComparer.Ordinal);
        var from = inForce.SkipWhile(r => r.Key != key).ToList();
        return from.Skip(1).FirstOrDefault(r => r.Kind == from[0].Kind && there.Contains(r.Key))?.Key;
    }
}
