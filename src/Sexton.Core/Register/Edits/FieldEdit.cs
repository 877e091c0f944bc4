using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Routing;
using Sexton.Core.Types;

namespace Sexton.Core.Register.Edits;

/// <summary>
/// Changes to one setting of a field, named by its path: "label.en", "required", "when", "settings.NAME", "goes_to.DESTINATION" and so on.
/// What <see cref="Read"/> gave before a change is what undoes it.
/// </summary>
public static class FieldEdit
{
    /// <summary>The value of a setting, as <see cref="Apply"/> takes it.</summary>
    /// <exception cref="DraftEditException">There is no such setting.</exception>
    public static JsonElement Read(Field field, string path)
    {
        var (name, rest) = EditValue.Split(path);
        return name switch
        {
            "label" => EditValue.Json(field.Label.Texts.GetValueOrDefault(rest, "")),
            "help" => EditValue.Json(field.Help.Texts.GetValueOrDefault(rest, "")),
            "placeholder" => EditValue.Json(field.Placeholder.Texts.GetValueOrDefault(rest, "")),
            "staff_label" => EditValue.Json(field.StaffLabel),
            "staff_notes" => EditValue.Json(field.StaffNotes),
            "picture" => EditValue.Json(field.Picture),
            "default" => EditValue.Json(field.Default),
            "default_must_change" => EditValue.Json(field.DefaultMustChange),
            "shares_row" => EditValue.Json(field.SharesRow),
            "given_by_page" => EditValue.Json(field.GivenByPage),
            "required" => EditValue.Json(field.Required),
            "required_when" => EditValue.Json(field.RequiredWhen),
            "asked_of" => EditValue.Json(field.AskedOf),
            "when" => EditValue.Json(field.When),
            "prices" => EditValue.Json(field.Prices),
            "code" => EditValue.Json(field.Code),
            "uses" => EditValue.Json(field.Uses),
            "included_picks" => EditValue.Json(field.IncludedPicks),
            "price_within" => EditValue.Json(field.PriceWithin.Contains(rest)),
            "sensitive" => EditValue.Json(field.Sensitive),
            "personal" => EditValue.Json(field.Personal),
            "retired" => EditValue.Json(field.Retired),
            "switched_off" => EditValue.Json(field.SwitchedOff),
            "type" => EditValue.Json(field.Type),
            "level" => EditValue.Json(field.Level),
            "step" => EditValue.Json(field.Step),
            "section" => EditValue.Json(field.Section),
            "settings" when rest.Length > 0 => field.Settings.TryGetValue(rest, out var value) ? value : EditValue.Json<string?>(null),
            "goes_to" => EditValue.Json(field.GoesTo.Contains(rest)),
            "goes_to_when" => EditValue.Json(field.GoesToWhen.GetValueOrDefault(rest)),
            _ => throw Unknown(path),
        };
    }

    /// <summary>The field with one setting changed. A null for a type's setting takes it back to its default.</summary>
    /// <exception cref="DraftEditException">There is no such setting, the value does not fit it, or a built-in field needs it as it is.</exception>
    public static Field Apply(Field field, string path, JsonElement value)
    {
        var (name, rest) = EditValue.Split(path);
        return name switch
        {
            "label" => field with { Label = EditValue.With(field.Label, rest, value, path, EditValue.LongestLabel) },
            "help" => field with { Help = EditValue.With(field.Help, rest, value, path, EditValue.LongestHelp) },
            "placeholder" => field with { Placeholder = EditValue.With(field.Placeholder, rest, value, path, EditValue.LongestLabel) },
            "staff_label" => field with { StaffLabel = EditValue.Text(value, path, EditValue.LongestLabel) },
            "staff_notes" => field with { StaffNotes = EditValue.Text(value, path, EditValue.LongestText) },
            "picture" => field with { Picture = EditValue.Picture(value, path) },
            "default" => field with { Default = EditValue.Answer(value, path) is { IsBlank: false } given ? given : null },
            "default_must_change" => field with { DefaultMustChange = EditValue.Truth(value, path) },
            "shares_row" => field with { SharesRow = EditValue.Truth(value, path) },
            "given_by_page" => field with { GivenByPage = Fixed(field, path, EditValue.Truth(value, path)) },
            "required" => field with { Required = Required(field, EditValue.Truth(value, path)) },
            "required_when" => field with { RequiredWhen = EditValue.Condition(value, path) },
            "asked_of" => field with { AskedOf = Fixed(field, path, EditValue.Scope(value, path)) },
            "when" => field with { When = Fixed(field, path, EditValue.Condition(value, path)) },
            "prices" => field with { Prices = EditValue.Prices(value, path) },
            "code" => field with { Code = EditValue.Code(value, path) },
            "uses" => field with { Uses = EditValue.Uses(value, path) },
            "included_picks" => field with { IncludedPicks = EditValue.Whole(value, path, 999) },
            "price_within" => field with { PriceWithin = PriceWithin(field, rest, path, EditValue.Truth(value, path)) },
            "sensitive" => field with { Sensitive = EditValue.Truth(value, path) },
            "personal" => field with { Personal = EditValue.Truth(value, path) },
            "retired" => field with { Retired = Fixed(field, path, EditValue.Truth(value, path)) },
            "switched_off" => field with { SwitchedOff = Fixed(field, path, EditValue.Truth(value, path)) },
            "type" => Fixed(
                field,
                path,
                field with
                {
                    Type = EditValue.Key(value, path) ?? "",
                    Settings = field.Settings.Clear(),
                    Default = null,
                }
            ),
            "level" => Fixed(field, path, WithLevel(field, EditValue.Level(value, path))),
            "step" => field with { Step = Fixed(field, path, EditValue.Key(value, path) ?? "") },
            "section" => field with { Section = Fixed(field, path, EditValue.Key(value, path)) },
            "settings" when rest.Length > 0 => field with { Settings = Settings(field, rest, value, path) },
            "goes_to" => field with
            {
                GoesTo = GoesTo(field, rest, path, EditValue.Truth(value, path)),
                LeftOut = field.LeftOut.Remove(rest),
            },
            "goes_to_when" => field with { GoesToWhen = GoesToWhen(field, rest, path, EditValue.Condition(value, path)) },
            _ => throw Unknown(path),
        };
    }

    /// <summary>Whether only a field that was never published can have a setting changed.</summary>
    public static bool IsFixedOncePublished(string path) => path is "type" or "level";

    private static bool Required(Field field, bool required) =>
        required || !BuiltInFields.MustBeAnswered(field.Key)
            ? required
            : throw new DraftEditException("required", $"“{field.Label}” must be answered: an order cannot be fulfilled without it.");

    // The shop itself relies on where and when its own questions are asked.
    private static T Fixed<T>(Field field, string path, T value) =>
        field.BuiltIn
            ? throw new DraftEditException(path, $"“{field.Label}” is a question of the shop’s own: this stays as it is.")
            : value;

    private static Field WithLevel(Field field, Level level) =>
        field with
        {
            Level = level,
            Section = null,
            GoesTo = [.. field.GoesTo.Where(key => DestinationIndex.Find(key)?.Takes(level) == true)],
            LeftOut = [.. field.LeftOut.Where(key => DestinationIndex.Find(key)?.Takes(level) == true)],
        };

    private static ImmutableSortedDictionary<string, JsonElement> Settings(Field field, string name, JsonElement value, string path) =>
        field.BuiltIn && name == OneOf.Choices ? Fixed(field, path, field.Settings)
        : value.ValueKind == JsonValueKind.Null ? field.Settings.Remove(name)
        : field.Settings.SetItem(name, value);

    private static ImmutableSortedSet<string> GoesTo(Field field, string destination, string path, bool on)
    {
        var known = Known(destination, path);
        if (on && !known.Takes(field.Level))
        {
            throw new DraftEditException(path, $"An answer given once per order has no place in {known.Phrase}.");
        }

        return on ? field.GoesTo.Add(destination) : field.GoesTo.Remove(destination);
    }

    private static ImmutableSortedSet<string> PriceWithin(Field field, string place, string path, bool within) =>
        place != Field.OnTheForm && DestinationIndex.Find(place)?.ShowsPrices != true
            ? throw new DraftEditException(path, $"No prices are shown at “{place}”.")
        : within ? field.PriceWithin.Add(place)
        : field.PriceWithin.Remove(place);

    private static ImmutableSortedDictionary<string, Condition> GoesToWhen(
        Field field,
        string destination,
        string path,
        Condition? condition
    )
    {
        _ = Known(destination, path);
        return condition is null ? field.GoesToWhen.Remove(destination) : field.GoesToWhen.SetItem(destination, condition);
    }

    private static Destination Known(string destination, string path) =>
        DestinationIndex.Find(destination) ?? throw new DraftEditException(path, $"There is no destination “{destination}”.");

    private static DraftEditException Unknown(string path) => new(path, $"A field has no setting “{path}”.");
}
