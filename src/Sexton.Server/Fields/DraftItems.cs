using System.Text.Json;
using Sexton.Core.Codes;
using Sexton.Core.Register;
using Sexton.Core.Register.Edits;
using Sexton.Core.Register.Settings;
using Sexton.Core.Routing;
using Sexton.Core.Sentences;
using Sexton.Core.Values;
using Sexton.Data.Rows;

namespace Sexton.Server.Fields;

/// <summary>The rows of the draft as fields, sections, steps and destinations, and back.</summary>
internal static class DraftItems
{
    /// <summary>The register of some rows, which stand in their order.</summary>
    public static RegisterContent Register(IReadOnlyList<DraftItemRow> rows) =>
        new([.. Of<Field>(rows, DraftItemKind.Field)])
        {
            Sections = [.. Of<Section>(rows, DraftItemKind.Section)],
            Steps = [.. Of<CustomStep>(rows, DraftItemKind.Step)],
            Destinations = [.. Of<Destination>(rows, DraftItemKind.Destination)],
            Codes = Of<CodeRules>(rows, DraftItemKind.Codes).FirstOrDefault() ?? CodeRules.None,
            Wording = Of<OwnSentences>(rows, DraftItemKind.Sentences).FirstOrDefault() ?? OwnSentences.None,
        };

    /// <summary>The rows of a register.</summary>
    public static IEnumerable<DraftItemRow> Of(RegisterContent register) =>
        Ranked(DraftItemKind.Field, register.Fields, static f => f.Key)
            .Concat(Ranked(DraftItemKind.Section, register.Sections, static s => s.Key))
            .Concat(Ranked(DraftItemKind.Step, register.Steps, static s => s.Key))
            .Concat(Ranked(DraftItemKind.Destination, register.Destinations, static d => d.Key))
            .Concat(Ranked(DraftItemKind.Codes, [register.Codes], static _ => CodeRules.Key))
            .Concat(Ranked(DraftItemKind.Sentences, [register.Wording], static _ => OwnSentences.Key));

    /// <summary>The register of some rows, of which one has another definition.</summary>
    public static RegisterContent With(IReadOnlyList<DraftItemRow> rows, DraftItemRow row, string definition) =>
        Register([.. rows.Select(r => r.Key == row.Key ? Row(row.Kind, row.Key, row.Rank, definition) : r)]);

    public static DraftItemRow Row(DraftItemKind kind, string key, string rank, string definition, int revision = 1) =>
        new()
        {
            Kind = kind,
            Key = key,
            Rank = rank,
            Definition = definition,
            Revision = revision,
        };

    public static T Parse<T>(DraftItemRow row) => Read<T>(row.Definition);

    /// <summary>A definition as what it is.</summary>
    public static T Read<T>(string definition) => JsonSerializer.Deserialize<T>(definition, DocumentJson.Options)!;

    public static string Write<T>(T item) => JsonSerializer.Serialize(item, DocumentJson.Options);

    /// <summary>A definition as it would have been written.</summary>
    public static string Tidy(DraftItemKind kind, string definition) =>
        kind switch
        {
            DraftItemKind.Field => Write(Read<Field>(definition)),
            DraftItemKind.Codes => Write(Read<CodeRules>(definition)),
            DraftItemKind.Sentences => Write(Read<OwnSentences>(definition)),
            DraftItemKind.Section => Write(Read<Section>(definition)),
            DraftItemKind.Destination => Write(Read<Destination>(definition)),
            _ => Write(Read<CustomStep>(definition)),
        };

    /// <summary>The value of a setting of a row.</summary>
    public static JsonElement Read(DraftItemRow row, string setting) =>
        row.Kind switch
        {
            DraftItemKind.Field => FieldSettings.Read(Parse<Field>(row), setting),
            DraftItemKind.Section => SectionEdit.Read(Parse<Section>(row), setting),
            DraftItemKind.Codes => CodeEdit.Read(Parse<CodeRules>(row), setting),
            DraftItemKind.Sentences => SentenceEdit.Read(Parse<OwnSentences>(row), setting),
            DraftItemKind.Destination => DestinationEdit.Read(Parse<Destination>(row), setting),
            _ => SectionEdit.Read(Parse<CustomStep>(row), setting),
        };

    /// <summary>The definition of a row with one setting changed.</summary>
    /// <param name="row">The row.</param>
    /// <param name="setting">The path of the setting.</param>
    /// <param name="value">The value.</param>
    /// <param name="destinations">Where answers can go.</param>
    /// <param name="kinds">The kinds of destination.</param>
    public static string Apply(
        DraftItemRow row,
        string setting,
        JsonElement value,
        DestinationIndex destinations,
        DestinationKinds kinds
    ) =>
        row.Kind switch
        {
            DraftItemKind.Field => Write(FieldSettings.Apply(Parse<Field>(row), setting, value, destinations)),
            DraftItemKind.Codes => Write(CodeEdit.Apply(Parse<CodeRules>(row), setting, value, destinations)),
            DraftItemKind.Sentences => Write(SentenceEdit.Apply(Parse<OwnSentences>(row), setting, value)),
            DraftItemKind.Section => Write(SectionEdit.Apply(Parse<Section>(row), setting, value, destinations)),
            DraftItemKind.Destination => Write(DestinationEdit.Apply(Parse<Destination>(row), setting, value, kinds)),
            _ => Write(SectionEdit.Apply(Parse<CustomStep>(row), setting, value)),
        };

    private static IEnumerable<DraftItemRow> Ranked<T>(DraftItemKind kind, IReadOnlyList<T> items, Func<T, string> key) =>
        items.Zip(Rank.Spread(items.Count), (item, rank) => Row(kind, key(item), rank, Write(item)));

    private static IEnumerable<T> Of<T>(IReadOnlyList<DraftItemRow> rows, DraftItemKind kind) =>
        rows.Where(r => r.Kind == kind).Select(Parse<T>);
}
