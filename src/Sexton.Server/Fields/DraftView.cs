using System.Globalization;
using System.Text.Json;
using Sexton.Core.Checks;
using Sexton.Core.Register;
using Sexton.Core.Register.Types;
using Sexton.Core.Routing;
using Sexton.Data.Rows;

namespace Sexton.Server.Fields;

/// <summary>The draft with everything that the map needs.</summary>
/// <param name="Next">The number of the version that it would become.</param>
/// <param name="Unpublished">How many fields differ from the current version.</param>
/// <param name="Fields">The fields.</param>
/// <param name="Steps">The steps where fields are asked.</param>
/// <param name="Destinations">The destinations where answers go.</param>
/// <param name="Types">The kinds of answer.</param>
/// <param name="Products">The products.</param>
/// <param name="Problems">What is wrong with the draft.</param>
internal sealed record DraftView(
    int Next,
    int Unpublished,
    IReadOnlyList<FieldView> Fields,
    IReadOnlyList<NamedKey> Steps,
    IReadOnlyList<DestinationView> Destinations,
    IReadOnlyList<TypeView> Types,
    IReadOnlyList<ProductChoice> Products,
    IReadOnlyList<Problem> Problems);

/// <summary>A key and its name.</summary>
internal sealed record NamedKey(string Key, string Name);

/// <summary>A destination.</summary>
internal sealed record DestinationView(string Key, string Name, string Phrase, DestinationFamily Family, int? LongestLineText, bool TakesOrderAnswers);

/// <summary>A kind of answer with its settings.</summary>
internal sealed record TypeView(string Key, string Name, IReadOnlyList<TypeSetting> Settings);

/// <summary>A product that a field can be asked of.</summary>
internal sealed record ProductChoice(string Code, string Name, string Category);

/// <summary>A field of the draft.</summary>
/// <param name="Revision">Its revision, for If-Match.</param>
/// <param name="LiveSince">The first version that had it; null when it was never published.</param>
/// <param name="Changed">Whether it differs from the current version.</param>
/// <param name="Kind">Its kind of answer in short, with its limits: "text, 24".</param>
/// <param name="Optional">Whether it may be made optional.</param>
/// <param name="Field">The field.</param>
internal sealed record FieldView(int Revision, int? LiveSince, bool Changed, string Kind, bool Optional, Field Field)
{
    public static FieldView Of(DraftFieldRow row, FieldTypes types, int? liveSince, bool changed)
    {
        var field = DraftStore.Parse(row);
        var type = types.Find(field.Type)!;
        var limits = type.Settings.Select(s => (field.Settings.TryGetValue(s.Name, out var value) ? value.GetInt32() : s.Default).ToString(CultureInfo.InvariantCulture));
        return new FieldView(row.Revision, liveSince, changed, string.Join(", ", limits.Prepend(type.ShortName)), !BuiltInFields.MustBeAnswered(field.Key), field);
    }
}

/// <summary>Adds a field.</summary>
/// <param name="Label">The question.</param>
/// <param name="Key">The key.</param>
/// <param name="Type">The key of the kind of answer.</param>
/// <param name="Products">The codes of the products that ask it.</param>
internal sealed record AddFieldRequest(string Label, string Key, string Type, IReadOnlyList<string> Products);

/// <summary>Changes one setting of a field.</summary>
/// <param name="Setting">The path of the setting.</param>
/// <param name="Value">Its new value.</param>
internal sealed record ChangeFieldRequest(string Setting, JsonElement Value);

/// <summary>What was undone.</summary>
internal sealed record UndoneView(string Field, string Setting);

/// <summary>A key proposed for a label.</summary>
internal sealed record ProposedKey(string Key);
