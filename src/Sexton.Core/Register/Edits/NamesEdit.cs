using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Routing;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Register.Edits;

/// <summary>
/// Changes to what fields and answers are called at a destination: "FIELD.name.LANGUAGE", "FIELD.values.CHOICE" ("yes" and "no" of a question with these answers),
/// "FIELD.days", "FIELD.as_value" and "FIELD.with_order" for as what and with what they stand there, and "FIELD.otherwise" for what is done with what does not fit.
/// An empty text or a null takes it away.
/// </summary>
internal static class NamesEdit
{
    /// <summary>What is said of a way that there is not.</summary>
    public const string WrongOtherwise = "What does not fit is refused, or called for, shortened or moved: refuse, call, shorten or note.";

    private const int LongestWord = 100;

    public static JsonElement Read(Destination destination, string path, string rest)
    {
        var (field, name, part) = Split(path, rest);
        var names = destination.Names.GetValueOrDefault(field) ?? NamesThere.None;
        return name switch
        {
            "name" => EditValue.Json(names.Name.Texts.GetValueOrDefault(part)),
            "values" => EditValue.Json(names.Words.Values.GetValueOrDefault(part)),
            "days" when part.Length == 0 => EditValue.Json(names.Words.Days),
            "otherwise" when part.Length == 0 => EditValue.Json(names.Otherwise),
            "as_value" when part.Length == 0 => EditValue.Json(names.AsValue),
            "with_order" when part.Length == 0 => EditValue.Json(names.WithOrder),
            _ => throw DestinationEdit.Unknown(path),
        };
    }

    public static ImmutableSortedDictionary<string, NamesThere> Apply(Destination destination, string path, string rest, JsonElement value)
    {
        var (field, name, part) = Split(path, rest);
        var names = destination.Names.GetValueOrDefault(field) ?? NamesThere.None;
        var changed = name switch
        {
            "name" => names with { Name = EditValue.With(names.Name, part, OrEmpty(value), path, EditValue.LongestLabel) },
            "values" => names with { Words = names.Words with { Values = With(names.Words.Values, part, value, path) } },
            "days" when part.Length == 0 => names with
            {
                Words = names.Words with
                {
                    Days = OrNone<DayForm>(value, path, "A day is written dotted, slashed, month_first, hyphened or compact."),
                },
            },
            "as_value" when part.Length == 0 => names with { AsValue = EditValue.Truth(value, path) },
            "with_order" when part.Length == 0 => names with { WithOrder = EditValue.Truth(value, path) },
            "otherwise" when part.Length == 0 => names with { Otherwise = OrNone<Otherwise>(value, path, WrongOtherwise) },
            _ => throw DestinationEdit.Unknown(path),
        };
        return changed.IsEmpty ? destination.Names.Remove(field) : destination.Names.SetItem(field, changed);
    }

    private static (string Field, string Name, string Part) Split(string path, string rest)
    {
        var (field, setting) = EditValue.Split(rest);
        var (name, part) = EditValue.Split(setting);
        return FieldKey.IsValid(field) ? (field, name, part) : throw DestinationEdit.Unknown(path);
    }

    private static ImmutableSortedDictionary<string, string> With(
        ImmutableSortedDictionary<string, string> values,
        string key,
        JsonElement value,
        string path
    )
    {
        var word = EditValue.Text(OrEmpty(value), path, LongestWord);
        return !CanBeNamed(key) ? throw DestinationEdit.Unknown(path)
            : word.Contains('\n', StringComparison.Ordinal) ? throw new DraftEditException(path, "Give it on one line.")
            : word.Length == 0 ? values.Remove(key)
            : values.SetItem(key, word);
    }

    // A choice has a key as fields have; a country has its code.
    private static bool CanBeNamed(string key) => FieldKey.IsValid(key) || (key.Length == 2 && key.All(char.IsAsciiLetterUpper));

    private static T? OrNone<T>(JsonElement value, string path, string wrong)
        where T : struct, Enum => value.ValueKind == JsonValueKind.Null ? null : EditValue.Word<T>(value, path, wrong);

    private static JsonElement OrEmpty(JsonElement value) => value.ValueKind == JsonValueKind.Null ? EditValue.Json("") : value;
}
