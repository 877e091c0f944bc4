using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Register;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Accounts;
using Sexton.Server.Common;

namespace Sexton.Server.Fields;

/// <summary>The changes of the draft, each with what undoes it.</summary>
internal sealed class DraftHistory(SextonDb db, TimeProvider clock)
{
    /// <summary>Puts a change on record. One that undoes another is not undone itself, nor one that changed the live shop too.</summary>
    public void Record(Actor actor, DraftItemRow row, string setting, string? before, string? after, bool canUndo = true) =>
        db.DraftChanges.Add(
            new DraftChangeRow
            {
                Actor = actor.Id,
                ActorName = actor.Name,
                At = clock.GetUtcNow(),
                Kind = row.Kind,
                Field = row.Key,
                Setting = setting,
                Before = before,
                After = after,
                Revision = row.Revision,
                CanUndo = canUndo,
            }
        );

    /// <summary>The last change of a person that can be undone.</summary>
    public Task<DraftChangeRow?> LastOfAsync(Actor actor, CancellationToken cancel) =>
        db.DraftChanges.Where(c => c.Actor == actor.Id && c.CanUndo).OrderByDescending(c => c.Id).FirstOrDefaultAsync(cancel);

    /// <summary>A revision that nothing of this key ever had, so that whoever still sees what was there before cannot take it for this.</summary>
    public async Task<int> NextRevisionAsync(string key, CancellationToken cancel) =>
        (await db.DraftChanges.Where(c => c.Field == key).MaxAsync(c => (int?)c.Revision, cancel) ?? 0) + 1;

    /// <summary>The number of the last change; 0 before the first.</summary>
    public async Task<long> LastAsync(CancellationToken cancel) => await db.DraftChanges.MaxAsync(c => (long?)c.Id, cancel) ?? 0;

    /// <summary>Who changed what after a change, in words: “Gift message” (Ada).</summary>
    public async Task<string> SinceAsync(long change, RegisterContent register, CancellationToken cancel)
    {
        var since = await db
            .DraftChanges.Where(c => c.Id > change)
            .Select(c => new { c.Field, c.ActorName })
            .Distinct()
            .ToListAsync(cancel);
        return string.Join(
            ", ",
            since.Select(c =>
                $"“{register.Find(c.Field)?.Label.ToString() ?? register.FindSection(c.Field)?.Heading.ToString() ?? c.Field}” ({c.ActorName})"
            )
        );
    }

    /// <summary>What is kept of something that was taken out: its definition, and what it stood before.</summary>
    public static string Whole(string definition, string? next) => JsonSerializer.Serialize(new RemovedItem(Json(definition), next));

    /// <summary>The definition of something that was taken out, and what it stood before.</summary>
    public static (string Definition, string? Next) ReadWhole(string before)
    {
        var removed = JsonSerializer.Deserialize<RemovedItem>(before)!;
        return (removed.Definition.GetRawText(), removed.Next);
    }

    /// <summary>Whether something is as a change left it.</summary>
    public static bool IsAsAfter(DraftChangeRow change, DraftItemRow? row) =>
        row is not null && JsonElement.DeepEquals(Json(row.Definition), Json(change.After));

    /// <summary>The refusal of undoing what was changed since.</summary>
    public static ApiProblemException Overtaken(DraftChangeRow change) =>
        ApiProblemException.Conflict("changed_since", $"“{change.Field}” was changed there since. Change it by hand.");

    public static JsonElement Json(string? json) => JsonSerializer.Deserialize<JsonElement>(json ?? "null");

    private sealed record RemovedItem(JsonElement Definition, string? Next);
}
