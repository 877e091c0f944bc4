using System.Collections.Immutable;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Catalogue;
using Sexton.Core.Register;
using Sexton.Core.Register.Edits;
using Sexton.Core.Register.Settings;
using Sexton.Core.Register.Types;
using Sexton.Core.Routing;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Hosting;

namespace Sexton.Server.Fields;

/// <summary>The draft: a row per field, section and step, every change on record with what undoes it.</summary>
internal sealed class DraftStore(SextonDb db, FieldTypes types, PublishedKeys published, TimeProvider clock)
{
    private const string Position = "position";

    /// <summary>The draft as plain data.</summary>
    public async Task<RegisterContent> ReadAsync(CancellationToken cancel) => DraftItems.Register(await RowsAsync(cancel));

    /// <summary>The rows of the draft in their order.</summary>
    public async Task<List<DraftItemRow>> RowsAsync(CancellationToken cancel) =>
        await db.DraftItems.OrderBy(f => f.Position).ThenBy(f => f.Key).ToListAsync(cancel);

    public Compilation Compile(RegisterContent content) => RegisterPlan.Compile(content, types);

    public ImmutableArray<FieldChange> Difference(RegisterContent before, RegisterContent after, ProductIndex products) => RegisterDifference.Between(before, after, types, products);

    /// <summary>A key for a label that nothing has or ever had.</summary>
    public async Task<string> ProposeKeyAsync(string label, CancellationToken cancel)
    {
        var taken = await TakenKeysAsync(cancel);
        return FieldKey.Propose(label, taken.Contains);
    }

    /// <summary>Adds a field. It goes to every destination that takes an answer of its length: what must not go somewhere is switched off by hand.</summary>
    public async Task<DraftItemRow> AddFieldAsync(AddFieldRequest request, string actor, CancellationToken cancel)
    {
        var type = types.Find(request.Type) ?? throw new DraftEditException("type", $"There is no kind of answer “{request.Type}”.");
        await CheckNewKeyAsync(request.Key, cancel);
        var section = request.Section is null ? null : (await ReadAsync(cancel)).FindSection(request.Section) ?? throw new DraftEditException("section", $"There is no section “{request.Section}”.");
        var plain = new Field
        {
            Key = request.Key,
            Type = type.Key,
            Level = section?.Level ?? request.Level,
            Step = section?.Step ?? (request.Level == Level.Order ? Step.Cart.Key : Step.ProductPage.Key),
            Section = section?.Key,
            Label = LanguageMap.Empty,
            AskedOf = section is null && request.Level != Level.Order ? (request.AskedOf ?? ProductScope.Only()).Tidy() : ProductScope.Every,
        };
        var field = FieldEdit.Apply(plain, "label." + LanguageMap.Fallback, JsonSerializer.SerializeToElement(request.Label));
        if (field.Label.IsEmpty)
        {
            throw new DraftEditException("label", "Say what the shopper is asked.");
        }

        var rule = type.Bind(new SettingReader(type, field.Settings));
        field = field with { GoesTo = type.AsksNothing ? [] : [.. DestinationIndex.All.Where(d => d.Takes(field.Level) && d.HasRoomFor(rule, field.Level)).Select(d => d.Key)] };
        return await AddAsync(DraftItemKind.Field, field.Key, DraftItems.Write(field), actor, cancel);
    }

    /// <summary>Adds a section. What is answered to its opening question is shown on the order page until it is sent elsewhere too.</summary>
    public async Task<DraftItemRow> AddSectionAsync(AddSectionRequest request, string actor, CancellationToken cancel)
    {
        await CheckNewKeyAsync(request.Key, cancel);
        var plain = new Section
        {
            Key = request.Key,
            Level = request.Level,
            Step = request.Level == Level.Order ? Step.Cart.Key : Step.ProductPage.Key,
            Heading = LanguageMap.Empty,
            GoesTo = [DestinationIndex.OrderPage],
        };
        var section = SectionEdit.Apply(plain, "heading." + LanguageMap.Fallback, JsonSerializer.SerializeToElement(request.Heading));
        return section.Heading.IsEmpty
            ? throw new DraftEditException("heading", "Say what stands above its fields.")
            : await AddAsync(DraftItemKind.Section, section.Key, DraftItems.Write(section), actor, cancel);
    }

    /// <summary>Adds a step of the shop's own.</summary>
    public async Task<DraftItemRow> AddStepAsync(AddStepRequest request, string actor, CancellationToken cancel)
    {
        await CheckNewKeyAsync(request.Key, cancel);
        var plain = new OwnStep(request.Key, LanguageMap.Empty, request.After);
        var step = SectionEdit.Apply(plain, "name." + LanguageMap.Fallback, JsonSerializer.SerializeToElement(request.Name));
        return step.Name.IsEmpty
            ? throw new DraftEditException("name", "Say what the shopper reads above it.")
            : await AddAsync(DraftItemKind.Step, step.Key, DraftItems.Write(step), actor, cancel);
    }

    /// <summary>Changes one setting.</summary>
    public async Task<DraftItemRow> ChangeAsync(string key, int revision, string setting, JsonElement value, string actor, CancellationToken cancel)
    {
        var row = await FindAsync(key, revision, cancel);
        if (setting == Position)
        {
            await MoveAsync(row, value, actor, cancel);
        }
        else
        {
            await SetAsync(row, setting, value, actor, cancel);
        }

        await db.SaveChangesAsync(cancel);
        return row;
    }

    /// <summary>Takes something out of the draft: a field that no order answers, a section or step that nothing stands in.</summary>
    public async Task RemoveAsync(string key, int revision, string actor, CancellationToken cancel)
    {
        var row = await FindAsync(key, revision, cancel);
        var register = await ReadAsync(cancel);
        if (register.Find(key) is { BuiltIn: true } field)
        {
            throw ApiProblemException.Unprocessable("built_in", $"“{field.Label}” is a question of the shop’s own and stays.");
        }

        if (row.Kind == DraftItemKind.Codes)
        {
            throw ApiProblemException.Unprocessable("built_in", "The rules of item codes stay.");
        }

        if (register.Fields.Any(f => f.Section == key) || (row.Kind == DraftItemKind.Step && (register.Fields.Any(f => f.Step == key) || register.Sections.Any(s => s.Step == key))))
        {
            throw ApiProblemException.Unprocessable("not_empty", "There are fields in it. Move them elsewhere first.");
        }

        if (await published.IsAnsweredAsync(key, cancel))
        {
            throw ApiProblemException.Unprocessable("has_answers", "There are orders with answers to it. Retire it instead: it is no longer asked, and its answers can be read.");
        }

        db.DraftItems.Remove(row);
        Record(actor, row, "", row.Definition, null);
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
        var row = await db.DraftItems.FindAsync([change.Field], cancel);
        if (change.Setting.Length == 0)
        {
            UndoWhole(change, row);
        }
        else
        {
            _ = row ?? throw Overtaken(change);
            var now = change.Setting == Position ? await PlaceOfAsync(row, cancel) : DraftItems.Read(row, change.Setting);
            if (!JsonElement.DeepEquals(now, Json(change.After)))
            {
                throw Overtaken(change);
            }

            if (change.Setting == Position)
            {
                await PutBeforeAsync(row, Json(change.Before).GetString(), cancel);
            }
            else
            {
                row.Definition = DraftItems.Apply(row, change.Setting, Json(change.Before));
            }

            row.Revision++;
        }

        change.Undone = true;
        await db.SaveChangesAsync(cancel);
        return change;
    }

    private async Task<HashSet<string>> TakenKeysAsync(CancellationToken cancel)
    {
        var taken = (await published.SinceAsync(cancel)).Keys.ToHashSet(StringComparer.Ordinal);
        taken.UnionWith(await db.DraftItems.Select(f => f.Key).ToListAsync(cancel));
        taken.UnionWith(Step.Standard.Select(static s => s.Key));
        return taken;
    }

    private async Task CheckNewKeyAsync(string key, CancellationToken cancel)
    {
        if (!FieldKey.IsValid(key))
        {
            throw new DraftEditException("key", $"A key has a to z, digits and _, begins with a letter, and has at most {FieldKey.Longest} characters.");
        }

        if ((await TakenKeysAsync(cancel)).Contains(key))
        {
            throw new DraftEditException("key", $"The key “{key}” is taken, or was once. Keys are never used again.");
        }
    }

    private async Task<DraftItemRow> AddAsync(DraftItemKind kind, string key, string definition, string actor, CancellationToken cancel)
    {
        var last = await db.DraftItems.Where(r => r.Kind == kind).MaxAsync(f => (int?)f.Position, cancel) ?? 0;
        var row = DraftItems.Row(kind, key, last + 1, definition);
        db.DraftItems.Add(row);
        Record(actor, row, "", null, row.Definition);
        await db.SaveChangesAsync(cancel);
        return row;
    }

    private async Task<DraftItemRow> FindAsync(string key, int revision, CancellationToken cancel)
    {
        var row = await db.DraftItems.FindAsync([key], cancel) ?? throw ApiProblemException.NotFound($"The draft has nothing called “{key}”.");
        return row.Revision == revision ? row : throw new DbUpdateConcurrencyException();
    }

    private async Task SetAsync(DraftItemRow row, string setting, JsonElement value, string actor, CancellationToken cancel)
    {
        if (row.Kind == DraftItemKind.Field && FieldEdit.IsFixedOncePublished(setting) && (await published.SinceAsync(cancel)).ContainsKey(row.Key))
        {
            throw new DraftEditException(setting, "It was published, so this stays as it is: its answers must stay readable. Add another field instead.");
        }

        var before = DraftItems.Read(row, setting);
        var changed = DraftItems.Apply(row, setting, value);
        if (row.Kind == DraftItemKind.Field)
        {
            await CheckSettingsAsync(JsonSerializer.Deserialize<Field>(changed, RegisterJson.Options)!, row, setting, cancel);
        }

        // What was applied, not what was sent: a text is trimmed, a list sorted.
        var after = DraftItems.Read(DraftItems.Row(row.Kind, row.Key, 0, changed), setting);
        if (!JsonElement.DeepEquals(before, after))
        {
            row.Definition = changed;
            row.Revision++;
            Record(actor, row, setting, before.GetRawText(), after.GetRawText());
        }
    }

    private async Task CheckSettingsAsync(Field field, DraftItemRow row, string setting, CancellationToken cancel)
    {
        var type = types.Find(field.Type) ?? throw new DraftEditException("type", $"There is no kind of answer “{field.Type}”.");
        if (setting.StartsWith("settings.", StringComparison.Ordinal) && type.Validate(field.Settings).FirstOrDefault() is { } wrong)
        {
            throw new DraftEditException("settings." + wrong.Name, wrong.Sentence);
        }

        if (setting != "settings." + OneOf.Choices)
        {
            return;
        }

        var before = DraftItems.Parse<Field>(row);
        var known = Keys(before).Concat(await published.ChoicesNowAsync(field.Key, cancel)).ToHashSet(StringComparer.Ordinal);
        var ever = await published.ChoicesEverAsync(field.Key, cancel);
        if (Keys(field).FirstOrDefault(k => !known.Contains(k) && ever.Contains(k)) is { } again)
        {
            throw new DraftEditException(setting, $"The key “{again}” was that of another choice once. Keys are never used again; give the new one another.");
        }

        static IEnumerable<string> Keys(Field field) =>
            field.Settings.TryGetValue(OneOf.Choices, out var choices) ? ChoicesSetting.Read(choices).Select(static c => c.Key) : [];
    }

    private async Task MoveAsync(DraftItemRow row, JsonElement value, string actor, CancellationToken cancel)
    {
        if (value.ValueKind is not (JsonValueKind.String or JsonValueKind.Null))
        {
            throw new DraftEditException(Position, "Give the key before which it stands, or null for the end.");
        }

        var before = await PlaceOfAsync(row, cancel);
        if (JsonElement.DeepEquals(before, value) || value.ValueEquals(row.Key))
        {
            return;
        }

        await PutBeforeAsync(row, value.GetString(), cancel);
        row.Revision++;
        Record(actor, row, Position, before.GetRawText(), value.GetRawText());
    }

    // The place of a row is told by what follows it among its kind.
    private async Task<JsonElement> PlaceOfAsync(DraftItemRow row, CancellationToken cancel)
    {
        var same = (await RowsAsync(cancel)).Where(r => r.Kind == row.Kind).ToList();
        return JsonSerializer.SerializeToElement(same.SkipWhile(r => r.Key != row.Key).Skip(1).FirstOrDefault()?.Key);
    }

    private async Task PutBeforeAsync(DraftItemRow row, string? next, CancellationToken cancel)
    {
        var others = (await RowsAsync(cancel)).Where(r => r.Kind == row.Kind && r.Key != row.Key).ToList();
        var at = next is null ? others.Count : others.FindIndex(r => r.Key == next);
        if (at < 0)
        {
            throw new DraftEditException(Position, $"The draft has nothing called “{next}”.");
        }

        others.Insert(at, row);
        for (var i = 0; i < others.Count; i++)
        {
            others[i].Position = i;
        }
    }

    private void UndoWhole(DraftChangeRow change, DraftItemRow? row)
    {
        if (change.Before is null)
        {
            if (row is null || !JsonElement.DeepEquals(Json(row.Definition), Json(change.After)))
            {
                throw Overtaken(change);
            }

            db.DraftItems.Remove(row);
        }
        else
        {
            if (row is not null)
            {
                throw Overtaken(change);
            }

            db.DraftItems.Add(DraftItems.Row(change.Kind, change.Field, int.MaxValue, change.Before));
        }
    }

    private static ApiProblemException Overtaken(DraftChangeRow change) =>
        ApiProblemException.Conflict("changed_since", $"“{change.Field}” was changed there since. Change it by hand.");

    private static JsonElement Json(string? json) => JsonSerializer.Deserialize<JsonElement>(json ?? "null");

    private void Record(string actor, DraftItemRow row, string setting, string? before, string? after) =>
        db.DraftChanges.Add(new DraftChangeRow { Actor = actor, At = clock.GetUtcNow(), Kind = row.Kind, Field = row.Key, Setting = setting, Before = before, After = after });
}
