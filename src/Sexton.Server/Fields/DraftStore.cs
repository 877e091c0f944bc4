using System.Collections.Immutable;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Catalogue;
using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Register;
using Sexton.Core.Register.Edits;
using Sexton.Core.Routing;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Accounts;
using Sexton.Server.Common;
using Sexton.Server.Versions;

namespace Sexton.Server.Fields;

/// <summary>The draft: a row per field, section and step. Every change goes through the guards, and into the history.</summary>
internal sealed partial class DraftStore(
    SextonDb db,
    FieldTypes types,
    DestinationKinds kinds,
    PublishedKeys published,
    DraftGuards guards,
    DraftHistory history
)
{
    /// <summary>The path of the position of a row.</summary>
    public const string Position = "position";

    // On record of what was put back as a whole, and of several texts.
    private const string AsInForce = "as_in_force",
        Texts = "texts";

    /// <summary>The draft as plain data.</summary>
    public async Task<RegisterContent> ReadAsync(CancellationToken cancel) => DraftItems.Register(await RowsAsync(cancel));

    /// <summary>The rows of the draft in their order.</summary>
    public async Task<List<DraftItemRow>> RowsAsync(CancellationToken cancel) => await InOrder.ToListAsync(cancel);

    public Compilation Compile(RegisterContent content) => RegisterPlan.Compile(content, types, kinds);

    public ImmutableArray<FieldChange> Difference(RegisterContent before, RegisterContent after, ProductIndex products) =>
        RegisterDifference.Between(before, after, types, kinds, products);

    /// <summary>The destinations of the draft.</summary>
    public async Task<DestinationIndex> DestinationsAsync(CancellationToken cancel) =>
        new(
            DraftItems.Register(await InOrder.Where(static r => r.Kind == DraftItemKind.Destination).ToListAsync(cancel)).Destinations,
            kinds
        );

    /// <summary>A key for a label that nothing has or ever had.</summary>
    public async Task<string> ProposeKeyAsync(string label, CancellationToken cancel)
    {
        var taken = await TakenKeysAsync(cancel);
        return FieldKey.Propose(label, taken.Contains);
    }

    /// <summary>Adds a field.</summary>
    public async Task<DraftItemRow> AddFieldAsync(AddFieldRequest request, Actor actor, CancellationToken cancel)
    {
        await CheckNewKeyAsync(request.Key, cancel);
        var register = await ReadAsync(cancel);
        var destinations = new DestinationIndex(register.Destinations, kinds);
        if (request.Like is { } like)
        {
            var original = register.Find(like) ?? throw new DraftEditException("like", $"There is no field “{like}”.");
            var copy = NewItems.FieldLike(original, request.Key, request.Label, destinations);
            return await AddAsync(DraftItemKind.Field, copy.Key, DraftItems.Write(copy), actor, cancel);
        }

        var type = types.Find(request.Type) ?? throw new DraftEditException("type", $"There is no kind of answer “{request.Type}”.");
        var section = request.Section is null
            ? null
            : register.FindSection(request.Section) ?? throw new DraftEditException("section", $"There is no section “{request.Section}”.");
        var field = NewItems.Field(request.Key, type, request.Label, request.Level, section, request.AskedOf, destinations);
        return await AddAsync(DraftItemKind.Field, field.Key, await WithAsync(field, request.With, cancel), actor, cancel);
    }

    // What is set of it from the start passes whatever a change by hand does, and is undone with it.
    private Task<string> WithAsync(Field field, IReadOnlyDictionary<string, JsonElement>? with, CancellationToken cancel) =>
        EditedAsync(
            DraftItems.Row(DraftItemKind.Field, field.Key, "", DraftItems.Write(field), 0),
            (with ?? ImmutableDictionary<string, JsonElement>.Empty).Select(static w => (w.Key, w.Value)),
            cancel
        );

    // What a thing would be after several settings, each having passed the guards; nothing is kept.
    private async Task<string> EditedAsync(DraftItemRow row, IEnumerable<(string Path, JsonElement Value)> edits, CancellationToken cancel)
    {
        var sketch = DraftItems.Row(row.Kind, row.Key, row.Rank, row.Definition, row.Revision);
        foreach (var (setting, value) in edits)
        {
            var definition = await ApplyAsync(sketch, setting, value, cancel);
            await guards.CheckAsync(sketch, definition, setting, cancel);
            sketch.Definition = definition;
        }

        return sketch.Definition;
    }

    /// <summary>Puts the fields of a starter set into the draft, all or none, and gives the key of the section or field that comes first.</summary>
    public async Task<string> AddSetAsync(AddSetRequest request, Actor actor, CancellationToken cancel)
    {
        var set =
            StarterSets.All.FirstOrDefault(s => s.Key == request.Set)
            ?? throw new DraftEditException("set", $"There is no starter set “{request.Set}”.");
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var (taken, destinations) = (await TakenKeysAsync(cancel), await DestinationsAsync(cancel));
        var keys = new List<string>();
        var scope = set.Level == Level.Order ? ProductScope.Every : (request.AskedOf ?? ProductScope.Only()).Tidy();
        Section? section = null;
        if (set.Section is { } around)
        {
            section = NewItems.Section(KeyFor(around.Key), around.Heading.ToString(), set.Level, destinations) with
            {
                Heading = around.Heading,
                Opening = around.Opening,
                Step = around.Step.Key,
                AskedOf = scope,
            };
            await AddAsync(DraftItemKind.Section, section.Key, DraftItems.Write(section), actor, cancel);
        }

        foreach (var wanted in set.Fields)
        {
            var type = types.Find(wanted.Type)!;
            var plain = NewItems.Field(KeyFor(wanted.Key), type, wanted.Label.ToString(), set.Level, section, scope, destinations);
            var with = wanted.With.ToDictionary(
                static w => w.Setting,
                static w => JsonSerializer.SerializeToElement(w.Value, DocumentJson.Options),
                StringComparer.Ordinal
            );
            var field = DraftItems.Read<Field>(await WithAsync(plain with { Label = wanted.Label }, with, cancel));

            // Where it goes follows from how long its answers can be as the set has it.
            var routed = Routes.Begin(
                field with
                {
                    GoesTo = [],
                    LeftOut = [],
                },
                type.Bind(new SettingReader(type, field.Settings)),
                destinations
            );
            await AddAsync(DraftItemKind.Field, field.Key, DraftItems.Write(routed), actor, cancel);
        }

        await transaction.CommitAsync(cancel);
        return keys[0];

        string KeyFor(string key)
        {
            keys.Add(FieldKey.Propose(key, taken.Contains));
            taken.Add(keys[^1]);
            return keys[^1];
        }
    }

    /// <summary>Adds a section.</summary>
    public async Task<DraftItemRow> AddSectionAsync(AddSectionRequest request, Actor actor, CancellationToken cancel)
    {
        await CheckNewKeyAsync(request.Key, cancel);
        var section = NewItems.Section(request.Key, request.Heading, request.Level, await DestinationsAsync(cancel));
        return await AddAsync(DraftItemKind.Section, section.Key, DraftItems.Write(section), actor, cancel);
    }

    /// <summary>Adds a step of the shop's own.</summary>
    public async Task<DraftItemRow> AddStepAsync(AddStepRequest request, Actor actor, CancellationToken cancel)
    {
        await CheckNewKeyAsync(request.Key, cancel);
        var step = NewItems.Step(request.Key, request.Name, request.After);
        return await AddAsync(DraftItemKind.Step, step.Key, DraftItems.Write(step), actor, cancel);
    }

    /// <summary>Adds a destination; as a copy of another it begins with all that goes there.</summary>
    public async Task<DraftItemRow> AddDestinationAsync(AddDestinationRequest request, Actor actor, CancellationToken cancel)
    {
        await CheckNewKeyAsync(request.Key, cancel);
        var register = await ReadAsync(cancel);
        var original = request.CopyOf is null
            ? null
            : register.Destinations.FirstOrDefault(d => d.Key == request.CopyOf)
                ?? throw new DraftEditException("copy_of", $"There is no destination “{request.CopyOf}”.");
        var made = NewItems.Destination(request.Key, original?.Kind ?? request.Kind, request.Name, kinds);
        var destination = original is null ? made : original with { Key = made.Key, Name = made.Name };
        var row = await InsertAsync(DraftItemKind.Destination, made.Key, DraftItems.Write(destination), null, actor, undoes: false, cancel);
        if (original is not null)
        {
            await new DraftRoutes(db, history).CopyAsync(original.Key, made.Key, actor, cancel);
        }

        await db.SaveChangesAsync(cancel);
        return row;
    }

    /// <summary>Changes one setting.</summary>
    public async Task<DraftItemRow> ChangeAsync(
        string key,
        int revision,
        string setting,
        JsonElement value,
        Actor actor,
        CancellationToken cancel
    )
    {
        var row = await FindAsync(key, revision, cancel);
        if (setting == Position)
        {
            await MoveAsync(row, value, actor, cancel);
        }
        else
        {
            await WriteAsync(row, await ApplyAsync(row, setting, value, cancel), setting, actor, undoes: false, cancel);
        }

        await db.SaveChangesAsync(cancel);
        return row;
    }

    /// <summary>Changes several texts of one thing at once, as one change.</summary>
    /// <param name="key">Its key.</param>
    /// <param name="edits">The settings with their values.</param>
    /// <param name="actor">Who does it.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task ChangeTextsAsync(
        string key,
        IEnumerable<(string Path, JsonElement Value)> edits,
        Actor actor,
        CancellationToken cancel
    )
    {
        var row = await db.DraftItems.FindAsync([key], cancel) ?? throw NothingCalled(key);
        await WriteAsync(row, await EditedAsync(row, edits, cancel), Texts, actor, undoes: false, cancel);
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Takes something out of the draft: a field that no order answers, a section or step that nothing stands in.</summary>
    public async Task RemoveAsync(string key, int revision, Actor actor, CancellationToken cancel)
    {
        var row = await FindAsync(key, revision, cancel);
        await TakeAwayAsync(row, actor, undoes: false, cancel);
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>
    /// Undoes the last change that this person made and has not undone. It is refused by name where that setting was changed since, and by whatever would refuse
    /// the same change made by hand.
    /// </summary>
    /// <returns>The change that was undone.</returns>
    public async Task<DraftChangeRow> UndoAsync(Actor actor, CancellationToken cancel)
    {
        var change =
            await history.LastOfAsync(actor, cancel)
            ?? throw ApiProblemException.Unprocessable("nothing_to_undo", "There is nothing of yours to undo.");
        var row = await db.DraftItems.FindAsync([change.Field], cancel);
        if (change.Setting.Length > 0)
        {
            await UndoSettingAsync(change, row ?? throw DraftHistory.Overtaken(change), actor, cancel);
        }
        else if (change.Before is null)
        {
            await TakeAwayAsync(
                DraftHistory.IsAsAfter(change, row) ? row! : throw DraftHistory.Overtaken(change),
                actor,
                undoes: true,
                cancel
            );
        }
        else
        {
            await PutBackAsync(change, row, actor, cancel);
        }

        change.CanUndo = false;
        await db.SaveChangesAsync(cancel);
        return change;
    }

    private IQueryable<DraftItemRow> InOrder => db.DraftItems.OrderBy(static r => r.Rank).ThenBy(static r => r.Key);

    private async Task<HashSet<string>> TakenKeysAsync(CancellationToken cancel)
    {
        var taken = (await published.SinceAsync(cancel)).Keys.ToHashSet(StringComparer.Ordinal);
        taken.UnionWith(await db.DraftItems.Select(f => f.Key).ToListAsync(cancel));
        taken.UnionWith(Step.Standard.Select(static s => s.Key));
        return taken;
    }

    private async Task CheckNewKeyAsync(string key, CancellationToken cancel) => KeyRules.CheckNew(key, await TakenKeysAsync(cancel));

    private async Task<DraftItemRow> AddAsync(DraftItemKind kind, string key, string definition, Actor actor, CancellationToken cancel)
    {
        var row = await InsertAsync(kind, key, definition, null, actor, undoes: false, cancel);
        await db.SaveChangesAsync(cancel);
        return row;
    }

    // As the last of its kind, or before what it stood before, where that is still there.
    private async Task<DraftItemRow> InsertAsync(
        DraftItemKind kind,
        string key,
        string definition,
        string? next,
        Actor actor,
        bool undoes,
        CancellationToken cancel
    )
    {
        var all = await RowsAsync(cancel);
        if (all.Exists(r => r.Key == key))
        {
            throw KeyRules.Taken(key);
        }

        var rows = all.Where(r => r.Kind == kind).ToList();
        var row = DraftItems.Row(
            kind,
            key,
            Rank.Between(rows.LastOrDefault()?.Rank, null),
            definition,
            await history.NextRevisionAsync(key, cancel)
        );
        db.DraftItems.Add(row);
        if (rows.Exists(r => r.Key == next))
        {
            await PutBeforeAsync(row, next, cancel);
        }

        history.Record(actor, row, "", null, definition, canUndo: !undoes);
        return row;
    }

    private async Task<DraftItemRow> FindAsync(string key, int revision, CancellationToken cancel)
    {
        var row = await db.DraftItems.FindAsync([key], cancel) ?? throw NothingCalled(key);
        return row.Revision == revision ? row : throw new DbUpdateConcurrencyException();
    }

    private static ApiProblemException NothingCalled(string key) => ApiProblemException.NotFound($"The draft has nothing called “{key}”.");

    // One setting can move others: a new kind of answer has settings of its own. What is on record is everything that differs.
    private async Task WriteAsync(DraftItemRow row, string definition, string setting, Actor actor, bool undoes, CancellationToken cancel)
    {
        await guards.CheckAsync(row, definition, setting, cancel);
        var (before, after) = DraftDifference.Between(row.Definition, definition);
        if (before.Count > 0)
        {
            row.Definition = definition;
            row.Revision++;
            history.Record(actor, row, setting, before.ToJsonString(), after.ToJsonString(), canUndo: !undoes);
            if (row.Kind == DraftItemKind.Destination)
            {
                await JoinAsync(row.Key, actor, cancel);
            }
        }
    }

    /// <summary>The definition of a row with one setting changed, and its routes settled.</summary>
    public async Task<string> ApplyAsync(DraftItemRow row, string setting, JsonElement value, CancellationToken cancel)
    {
        var destinations = await DestinationsAsync(cancel);
        return WithRoom(row, DraftItems.Apply(row, setting, value, destinations, kinds), destinations);
    }

    // What cannot be switched on is left out, and what was left out goes as soon as it can.
    private string WithRoom(DraftItemRow row, string definition, DestinationIndex destinations)
    {
        if (
            row.Kind != DraftItemKind.Field
            || DraftItems.Read<Field>(definition) is not { } field
            || types.Find(field.Type) is not { AsksNothing: false } type
            || type.Validate(field.Settings).Any()
        )
        {
            return definition;
        }

        var rule = type.Bind(new SettingReader(type, field.Settings));
        return DraftItems.Write(Routes.Settle(DraftItems.Parse<Field>(row), field, rule, destinations));
    }

    // A destination that takes more than before gets what was left out there.
    private async Task JoinAsync(string destination, Actor actor, CancellationToken cancel)
    {
        var rows = await RowsAsync(cancel);
        var destinations = new DestinationIndex(DraftItems.Register(rows).Destinations, kinds);
        foreach (var row in rows.Where(r => r.Kind == DraftItemKind.Field && DraftItems.Parse<Field>(r).LeftOut.Contains(destination)))
        {
            await WriteAsync(row, WithRoom(row, row.Definition, destinations), "goes_to." + destination, actor, undoes: true, cancel);
        }
    }

    private async Task UndoSettingAsync(DraftChangeRow change, DraftItemRow row, Actor actor, CancellationToken cancel)
    {
        if (change.Setting != Position)
        {
            var definition =
                DraftDifference.TakeBack(row.Definition, change.Before!, change.After!) ?? throw DraftHistory.Overtaken(change);
            DraftGuards.CheckSurroundings(row.Kind, row.Key, definition, await ReadAsync(cancel));
            await WriteAsync(row, DraftItems.Tidy(row.Kind, definition), change.Setting, actor, undoes: true, cancel);
            return;
        }

        var now = await PositionOfAsync(row, cancel);
        if (!JsonElement.DeepEquals(now, DraftHistory.Json(change.After)))
        {
            throw DraftHistory.Overtaken(change);
        }

        await PutBeforeAsync(row, DraftHistory.Json(change.Before).GetString(), cancel);
        row.Revision++;
        history.Record(actor, row, Position, change.After, change.Before, canUndo: false);
    }

    private async Task TakeAwayAsync(DraftItemRow row, Actor actor, bool undoes, CancellationToken cancel)
    {
        // Of a copy that is undone the routes go with it: they came with it.
        if (undoes && row.Kind == DraftItemKind.Destination)
        {
            await new DraftRoutes(db, history).TakeBackAsync(row.Key, actor, cancel);
        }

        await guards.CheckRemovalAsync(row, await ReadAsync(cancel), cancel);
        var next = await PositionOfAsync(row, cancel);
        db.DraftItems.Remove(row);
        row.Revision++;
        history.Record(actor, row, "", DraftHistory.Whole(row.Definition, next.GetString()), null, canUndo: !undoes);
    }

    private async Task PutBackAsync(DraftChangeRow change, DraftItemRow? row, Actor actor, CancellationToken cancel)
    {
        if (row is not null)
        {
            throw DraftHistory.Overtaken(change);
        }

        var (definition, next) = DraftHistory.ReadWhole(change.Before!);
        DraftGuards.CheckSurroundings(change.Kind, change.Field, definition, await ReadAsync(cancel));
        await InsertAsync(change.Kind, change.Field, definition, next, actor, undoes: true, cancel);
    }

    private async Task MoveAsync(DraftItemRow row, JsonElement value, Actor actor, CancellationToken cancel)
    {
        if (value.ValueKind is not (JsonValueKind.String or JsonValueKind.Null))
        {
            throw new DraftEditException(Position, "Give the key before which it stands, or null for the end.");
        }

        var before = await PositionOfAsync(row, cancel);
        if (JsonElement.DeepEquals(before, value) || value.ValueEquals(row.Key))
        {
            return;
        }

        await PutBeforeAsync(row, value.GetString(), cancel);
        row.Revision++;
        history.Record(actor, row, Position, before.GetRawText(), value.GetRawText());
    }

    // The position of a row is told by what follows it among its kind.
    private async Task<JsonElement> PositionOfAsync(DraftItemRow row, CancellationToken cancel)
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

        row.Rank = Rank.Between(at == 0 ? null : others[at - 1].Rank, at == others.Count ? null : others[at].Rank);
    }
}
