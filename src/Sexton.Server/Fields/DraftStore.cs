using System.Collections.Immutable;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Catalogue;
using Sexton.Core.Register;
using Sexton.Core.Register.Types;
using Sexton.Core.Routing;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Hosting;

namespace Sexton.Server.Fields;

/// <summary>The draft: a row per field, every change on record with what undoes it.</summary>
internal sealed class DraftStore(SextonDb db, FieldTypes types, TimeProvider clock)
{
    /// <summary>The draft as plain data.</summary>
    public async Task<RegisterContent> ReadAsync(CancellationToken cancel) =>
        new([.. (await RowsAsync(cancel)).Select(Parse)]);

    /// <summary>The rows of the draft in their order.</summary>
    public async Task<List<DraftFieldRow>> RowsAsync(CancellationToken cancel) =>
        await db.DraftFields.OrderBy(f => f.Position).ThenBy(f => f.Key).ToListAsync(cancel);

    public Compilation Compile(RegisterContent content) => RegisterPlan.Compile(content, types);

    public ImmutableArray<FieldChange> Difference(RegisterContent before, RegisterContent after, ProductIndex products) => RegisterDifference.Between(before, after, types, products);

    /// <summary>A key for a label that no field has or ever had.</summary>
    public async Task<string> ProposeKeyAsync(string label, CancellationToken cancel)
    {
        var taken = await TakenKeysAsync(cancel);
        return FieldKey.Propose(label, taken.Contains);
    }

    /// <summary>Adds a field. It goes to every destination that takes an answer of its length: what must not go somewhere is switched off by hand.</summary>
    public async Task<DraftFieldRow> AddAsync(AddFieldRequest request, string actor, CancellationToken cancel)
    {
        var type = types.Find(request.Type) ?? throw new DraftEditException("type", $"There is no kind of answer “{request.Type}”.");
        if (!FieldKey.IsValid(request.Key))
        {
            throw new DraftEditException("key", $"A key has a to z, digits and _, begins with a letter, and has at most {FieldKey.Longest} characters.");
        }

        if ((await TakenKeysAsync(cancel)).Contains(request.Key))
        {
            throw new DraftEditException("key", $"The key “{request.Key}” is taken, or was once. Keys are never used again.");
        }

        var plain = new Field { Key = request.Key, Type = type.Key, Level = Level.Line, Step = Step.ProductPage.Key, Label = LanguageMap.Empty };
        var field = DraftEdit.Apply(plain, "label." + LanguageMap.Fallback, JsonSerializer.SerializeToElement(request.Label));
        if (field.Label.IsEmpty)
        {
            throw new DraftEditException("label", "Say what the shopper is asked.");
        }

        var longest = type.Bind(new SettingReader(type, field.Settings)).LongestText;
        field = field with
        {
            AskedOf = ProductScope.Only(request.Products),
            GoesTo = [.. DestinationIndex.All.Where(d => d.Takes(field.Level) && (d.Longest(field.Level) ?? int.MaxValue) >= longest).Select(d => d.Key)],
        };
        var position = await db.DraftFields.MaxAsync(f => (int?)f.Position, cancel) ?? 0;
        var row = new DraftFieldRow { Key = field.Key, Position = position + 1, Definition = Write(field), Revision = 1 };
        db.DraftFields.Add(row);
        Record(actor, field.Key, "", null, row.Definition);
        await db.SaveChangesAsync(cancel);
        return row;
    }

    /// <summary>Changes one setting of a field.</summary>
    public async Task<DraftFieldRow> ChangeAsync(string key, int revision, string setting, JsonElement value, string actor, CancellationToken cancel)
    {
        var row = await FindAsync(key, revision, cancel);
        var field = Parse(row);
        Set(row, field, setting, value, actor);
        await db.SaveChangesAsync(cancel);
        return row;
    }

    /// <summary>Takes a field out of the draft that was never published.</summary>
    public async Task RemoveAsync(string key, int revision, string actor, CancellationToken cancel)
    {
        var row = await FindAsync(key, revision, cancel);
        if (Parse(row).BuiltIn || (await PublishedSinceAsync(cancel)).ContainsKey(key))
        {
            throw ApiProblemException.Unprocessable("field_is_live", "A field that was published stays in the register, so that its answers can be read.");
        }

        db.DraftFields.Remove(row);
        Record(actor, key, "", row.Definition, null);
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>
    /// Undoes the last change that this person made and has not undone. It is refused by name where that setting was changed since.
    /// </summary>
    /// <returns>The change that was undone.</returns>
    public async Task<DraftChangeRow> UndoAsync(string actor, CancellationToken cancel)
    {
        var change = await db.DraftChanges.Where(c => c.Actor == actor && !c.Undone).OrderByDescending(c => c.Id).FirstOrDefaultAsync(cancel)
            ?? throw ApiProblemException.Unprocessable("nothing_to_undo", "There is nothing of yours to undo.");
        var row = await db.DraftFields.FindAsync([change.Field], cancel);
        if (change.Setting.Length == 0)
        {
            UndoWhole(change, row);
        }
        else
        {
            var field = row is null ? throw Overtaken(change) : Parse(row);
            if (!JsonElement.DeepEquals(DraftEdit.Read(field, change.Setting), Json(change.After)))
            {
                throw Overtaken(change);
            }

            row.Definition = Write(DraftEdit.Apply(field, change.Setting, Json(change.Before)));
            row.Revision++;
        }

        change.Undone = true;
        await db.SaveChangesAsync(cancel);
        return change;
    }

    /// <summary>Each field that was ever published, with the first version that had it.</summary>
    public async Task<Dictionary<string, int>> PublishedSinceAsync(CancellationToken cancel) =>
        await db.Database.SqlQuery<FirstVersion>(
            $"""
            select f ->> 'key' as key, min(v.number) as number
            from register_versions v, jsonb_array_elements(v.content -> 'fields') f group by 1
            """).ToDictionaryAsync(f => f.Key, f => f.Number, StringComparer.Ordinal, cancel);

    public static Field Parse(DraftFieldRow row) => JsonSerializer.Deserialize<Field>(row.Definition, RegisterJson.Options)!;

    public static string Write(Field field) => JsonSerializer.Serialize(field, RegisterJson.Options);

    private sealed record FirstVersion(string Key, int Number);

    private async Task<HashSet<string>> TakenKeysAsync(CancellationToken cancel)
    {
        var taken = (await PublishedSinceAsync(cancel)).Keys.ToHashSet(StringComparer.Ordinal);
        taken.UnionWith(await db.DraftFields.Select(f => f.Key).ToListAsync(cancel));
        return taken;
    }

    private async Task<DraftFieldRow> FindAsync(string key, int revision, CancellationToken cancel)
    {
        var row = await db.DraftFields.FindAsync([key], cancel) ?? throw ApiProblemException.NotFound($"The draft has no field “{key}”.");
        return row.Revision == revision ? row : throw new DbUpdateConcurrencyException();
    }

    private void Set(DraftFieldRow row, Field field, string setting, JsonElement value, string actor)
    {
        var before = DraftEdit.Read(field, setting);
        var changed = DraftEdit.Apply(field, setting, value);
        if (types.Find(field.Type)?.Validate(changed.Settings).FirstOrDefault() is { } wrong)
        {
            throw new DraftEditException("settings." + wrong.Name, wrong.Sentence);
        }

        // What was applied, not what was sent: a text is trimmed, a list sorted.
        var after = DraftEdit.Read(changed, setting);
        if (!JsonElement.DeepEquals(before, after))
        {
            row.Definition = Write(changed);
            row.Revision++;
            Record(actor, row.Key, setting, before.GetRawText(), after.GetRawText());
        }
    }

    private void UndoWhole(DraftChangeRow change, DraftFieldRow? row)
    {
        if (change.Before is null)
        {
            if (row is null || !JsonElement.DeepEquals(Json(row.Definition), Json(change.After)))
            {
                throw Overtaken(change);
            }

            db.DraftFields.Remove(row);
        }
        else
        {
            if (row is not null)
            {
                throw Overtaken(change);
            }

            db.DraftFields.Add(new DraftFieldRow { Key = change.Field, Position = int.MaxValue, Definition = change.Before, Revision = 1 });
        }
    }

    private static ApiProblemException Overtaken(DraftChangeRow change) =>
        ApiProblemException.Conflict("changed_since", $"“{change.Field}” was changed there since. Change it by hand.");

    private static JsonElement Json(string? json) => JsonSerializer.Deserialize<JsonElement>(json ?? "null");

    private void Record(string actor, string field, string setting, string? before, string? after) =>
        db.DraftChanges.Add(new DraftChangeRow { Actor = actor, At = clock.GetUtcNow(), Field = field, Setting = setting, Before = before, After = after });
}
