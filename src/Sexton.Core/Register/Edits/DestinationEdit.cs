using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Routing;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Register.Edits;

/// <summary>
/// Changes to one setting of a destination: "name", "takes_new_fields", "gets", "without_prices_when", "order", "release", "day", "only_once", "otherwise", "switched_off", "retired",
/// "settings.NAME" for those of its kind, "settings.NAME.LANGUAGE" for a wording in one language, "names.FIELD…" for what is called how there, and "leaves…" for how lines leave for it.
/// </summary>
public static class DestinationEdit
{
    /// <summary>The value of a setting of a destination.</summary>
    /// <exception cref="DraftEditException">There is no such setting.</exception>
    public static JsonElement Read(Destination destination, string path)
    {
        var (name, rest) = EditValue.Split(path);
        return name switch
        {
            "name" => EditValue.Json(destination.Name),
            "takes_new_fields" => EditValue.Json(destination.TakesNewFields),
            "gets" => EditValue.Json(destination.Gets),
            "without_prices_when" => EditValue.Json(destination.WithoutPricesWhen),
            "order" => EditValue.Json(destination.Order),
            "release" => EditValue.Json(destination.Release),
            "day" => EditValue.Json(destination.Day),
            "only_once" => EditValue.Json(destination.OnlyOnce),
            "otherwise" => EditValue.Json(destination.Otherwise),
            "switched_off" => EditValue.Json(destination.SwitchedOff),
            "retired" => EditValue.Json(destination.Retired),
            "settings" when EditValue.Split(rest) is { Part.Length: > 0 } wording => WordingEdit.Read(
                destination,
                wording.Name,
                wording.Part
            ),
            "settings" when rest.Length > 0 => destination.Settings.TryGetValue(rest, out var value)
                ? value
                : EditValue.Json<string?>(null),
            "names" when rest.Length > 0 => NamesEdit.Read(destination, path, rest),
            "leaves" when rest.Length > 0 => LeavingEdit.Read(destination, path, rest),
            _ => throw Unknown(path),
        };
    }

    /// <summary>The destination with one setting changed. A null for a setting of its kind takes it back to its default.</summary>
    /// <param name="destination">The destination.</param>
    /// <param name="path">The path of the setting.</param>
    /// <param name="value">The value.</param>
    /// <param name="kinds">The kinds of destination.</param>
    /// <exception cref="DraftEditException">There is no such setting, or the value does not fit it.</exception>
    /// <example><code>DestinationEdit.Apply(destination, "settings.longest_item_code", JsonSerializer.SerializeToElement(20), kinds)</code></example>
    public static Destination Apply(Destination destination, string path, JsonElement value, DestinationKinds kinds)
    {
        var (name, rest) = EditValue.Split(path);
        var kind = kinds.Find(destination.Kind);
        if (kind?.IsDelivered == false && !IsOfPages(name) && !(kind.Makes && IsOfMakers(name)))
        {
            throw new DraftEditException(path, "It is shown whenever somebody opens it, with all that goes there.");
        }

        if (kind?.FollowsAnother == true && name is "gets" or "release" or "day" or "only_once")
        {
            throw new DraftEditException(path, "It goes when what was sent before is taken back, and at no other time.");
        }

        if (kind?.TellsEvents == true && name is "release" or "day" or "only_once")
        {
            throw new DraftEditException(path, "It is told of what happens when that happens, once each.");
        }

        return name switch
        {
            "name" => destination with { Name = Name(value, path) },
            "takes_new_fields" => destination with { TakesNewFields = EditValue.Truth(value, path) },
            "gets" => destination with { Gets = EditValue.Condition(value, path) },
            "without_prices_when" => kind?.CanLeaveOutPrices == false
                ? throw new DraftEditException(
                    path,
                    kind.ShowsPrices ? "It is about prices, and has them always." : "No prices stand there."
                )
                : destination with
                {
                    WithoutPricesWhen = EditValue.Condition(value, path),
                },
            "order" => destination with { Order = Order(value, path) },
            "release" => Released(
                destination,
                EditValue.Word<Release>(value, path, "It is released placed, paid, approved, prepared or on a day.")
            ),
            "day" => destination with { Day = EditValue.Key(value, path) },
            "only_once" => destination with { OnlyOnce = EditValue.Truth(value, path) },
            "otherwise" => destination with { Otherwise = EditValue.Word<Otherwise>(value, path, NamesEdit.WrongOtherwise) },
            "switched_off" => destination with { SwitchedOff = EditValue.Truth(value, path) },
            "retired" => destination with { Retired = EditValue.Truth(value, path) },
            "settings" when rest.Length > 0 => destination with { Settings = With(destination, rest, value, path, kinds) },
            "names" when rest.Length > 0 => kind?.NamesAnswers == false
                ? throw new DraftEditException(path, "Answers stand there as the shopper gave them, under their questions.")
                : destination with
                {
                    Names = NamesEdit.Apply(destination, path, rest, value),
                },
            "leaves" when rest.Length > 0 => LeavingEdit.Apply(destination, path, rest, value, kind),
            _ => throw Unknown(path),
        };
    }

    // Of the day nothing is left where it is not released on one.
    private static bool IsOfPages(string name) => name is "name" or "takes_new_fields" or "settings" or "names" or "order";

    private static bool IsOfMakers(string name) => name is "gets" or "switched_off" or "retired";

    private static Destination Released(Destination destination, Release release) =>
        destination with
        {
            Release = release,
            Day = release == Release.Day ? destination.Day : null,
        };

    private static ImmutableArray<string> Order(JsonElement value, string path) =>
        value.ValueKind == JsonValueKind.Array
        && value.EnumerateArray().All(static k => k.ValueKind == JsonValueKind.String && FieldKey.IsValid(k.GetString()!))
        && value.EnumerateArray().DistinctBy(static k => k.GetString()).Count() == value.GetArrayLength()
            ? [.. value.EnumerateArray().Select(static k => k.GetString()!)]
            : throw new DraftEditException(path, "Give the keys of fields, each once.");

    private static string Name(JsonElement value, string path) =>
        EditValue.Text(value, path, EditValue.LongestName) is { Length: > 0 } name
            ? name
            : throw new DraftEditException(path, "Say what it is called.");

    private static ImmutableSortedDictionary<string, JsonElement> With(
        Destination destination,
        string rest,
        JsonElement value,
        string path,
        DestinationKinds kinds
    )
    {
        var kind =
            kinds.Find(destination.Kind) ?? throw new DraftEditException(path, $"There is no kind of destination “{destination.Kind}”.");
        var (setting, language) = EditValue.Split(rest);
        if (language.Length > 0)
        {
            value = WordingEdit.With(destination, kind, setting, language, value, path);
        }

        var changed =
            value.ValueKind == JsonValueKind.Null ? destination.Settings.Remove(setting) : destination.Settings.SetItem(setting, value);
        return SettingsObject.Validate(kind.Name, kind.Settings, changed).FirstOrDefault() is { } wrong
            ? throw new DraftEditException("settings." + wrong.Name, wrong.Sentence)
            : changed;
    }

    /// <summary>That there is no such setting.</summary>
    internal static DraftEditException Unknown(string path) => new(path, $"A destination has no setting “{path}”.");
}
