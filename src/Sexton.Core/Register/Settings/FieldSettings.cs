using System.Collections.Frozen;
using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using Sexton.Core.Catalogue;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Register.Edits;
using Sexton.Core.Routing;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Register.Settings;

/// <summary>All settings of a field, in the order in which a difference tells them.</summary>
public static class FieldSettings
{
    /// <summary>The settings.</summary>
    public static readonly ImmutableArray<FieldSetting> All =
    [
        new FieldSetting<string>(
            "label",
            ValueForms.Text(EditValue.LongestLabel),
            static (f, part) => f.Label.Texts.GetValueOrDefault(part, ""),
            static (f, part, v, at) => f with { Label = In(f.Label, part, v, at.Path) }
        )
        {
            HasParts = true,
            Clauses = static (old, _, now, here) =>
                [
                    new(
                        $"asks for {here.TypeOf(now)?.Name ?? now.Type}: ",
                        old is null ? "" : SideWords.Quoted(old.Label),
                        SideWords.Quoted(now.Label),
                        ""
                    ),
                ],
        },
        Words("help", EditValue.LongestHelp, "help ", static f => f.Help, static (f, v) => f with { Help = v }),
        Words("placeholder", EditValue.LongestLabel, "example ", static f => f.Placeholder, static (f, v) => f with { Placeholder = v }),
        new FieldSetting<string>("picture", ValueForms.Picture, static (f, _) => f.Picture, static (f, _, v, _) => f with { Picture = v })
        {
            Around = ("picture ", ""),
            Words = static (f, _) => f.Picture,
        },
        Words(
            "picture_words",
            EditValue.LongestHelp,
            "whose picture shows ",
            static f => f.PictureWords,
            static (f, v) => f with { PictureWords = v }
        ),
        Text("staff_label", EditValue.LongestLabel, "staff call it ", static f => f.StaffLabel, static (f, v) => f with { StaffLabel = v }),
        Text(
            "staff_notes",
            EditValue.LongestText,
            "notes for staff ",
            static f => f.StaffNotes,
            static (f, v) => f with { StaffNotes = v }
        ),
        new FieldSetting<Level>(
            "level",
            ValueForms.Level,
            static (f, _) => f.Level,
            static (f, _, v, at) => WithLevel(f, v, at.Destinations)
        )
        {
            KeptBy = KeptBy.AllOwn,
        },
        new FieldSetting<ProductScope>(
            "asked_of",
            ValueForms.Scope,
            static (f, _) => f.AskedOf,
            static (f, _, v, _) => f with { AskedOf = v }
        )
        {
            KeptBy = KeptBy.NeededOwn,
            Around = ("asked ", ""),
            Words = static (f, words) => words.Often(f.Level, f.AskedOf),
        },
        new FieldSetting<int?>(
            "most_each",
            ValueForms.WholeOrNone(1, Product.MostOfEach),
            static (f, _) => f.MostEach,
            static (f, _, v, _) => f with { MostEach = v }
        )
        {
            KeptBy = KeptBy.AllOwn,
            Around = ("of at most ", " of a line"),
            Words = static (f, _) => f.MostEach?.ToString(CultureInfo.InvariantCulture) ?? "",
        },
        new FieldSetting<string>("step", ValueForms.Key, static (f, _) => f.Step, static (f, _, v, _) => f with { Step = v })
        {
            Around = ("at ", ""),
            Words = static (f, words) => words.StepName(f.Step),
        },
        new FieldSetting<string?>(
            "section",
            ValueForms.KeyOrNone,
            static (f, _) => f.Section,
            static (f, _, v, _) => f with { Section = v }
        )
        {
            Around = ("in the section ", ""),
            Words = static (f, words) => words.SectionName(f.Section),
        },
        new FieldSetting<string?>(
            "stands_after",
            ValueForms.PlaceInAddress,
            static (f, _) => f.StandsAfter,
            static (f, _, v, _) => f with { StandsAfter = v }
        )
        {
            Around = ("stands after ", ""),
            Words = static (f, words) => words.PlaceOf(f.StandsAfter),
        },
        new FieldSetting<Condition?>("when", ValueForms.Condition, static (f, _) => f.When, static (f, _, v, _) => f with { When = v })
        {
            KeptBy = KeptBy.NeededOwn,
            Around = ("when ", ""),
            Words = static (f, words) => words.Sentence(f.When),
        },
        new FieldSetting<bool>(
            "required",
            ValueForms.Truth,
            static (f, _) => f.Required,
            static (f, _, v, at) => f with { Required = Required(f, v, at.Path) }
        )
        {
            Around = ("an answer ", ""),
            Words = static (f, words) => words.Must(f),
        },
        new FieldSetting<Condition?>(
            "required_when",
            ValueForms.Condition,
            static (f, _) => f.RequiredWhen,
            static (f, _, v, _) => f with { RequiredWhen = v }
        ),
        new FieldSetting<Condition?>(
            "refused_when",
            ValueForms.Condition,
            static (f, _) => f.RefusedWhen,
            static (f, _, v, _) => f with { RefusedWhen = v }
        )
        {
            Around = ("an answer is refused when ", ""),
            Words = static (f, words) => words.Sentence(f.RefusedWhen),
        },
        Words(
            "refused_saying",
            EditValue.LongestHelp,
            "says then ",
            static f => f.RefusedSaying,
            static (f, v) => f with { RefusedSaying = v }
        ),
        new FieldSetting<ImmutableArray<Pricing.Price>>(
            "prices",
            ValueForms.Prices,
            static (f, _) => f.Prices,
            static (f, _, v, _) => f with { Prices = v }
        )
        {
            Around = ("costs ", ""),
            Words = static (f, words) => words.Costs(f),
        },
        new FieldSetting<Codes.FieldCode?>("code", ValueForms.Code, static (f, _) => f.Code, static (f, _, v, _) => f with { Code = v })
        {
            Around = ("puts into the item code ", ""),
            Words = static (f, _) =>
                f.Code is null ? ""
                : f.Code.Part.Length > 0 ? f.Code.Part
                : "what is answered",
        },
        new FieldSetting<ImmutableArray<Components.ComponentUsage>>(
            "uses",
            ValueForms.Uses,
            static (f, _) => f.Uses,
            static (f, _, v, _) => f with { Uses = v }
        )
        {
            Around = ("uses up ", ""),
            Words = static (f, words) => words.Uses(f),
        },
        new FieldSetting<int>(
            "included_picks",
            ValueForms.Whole(999),
            static (f, _) => f.IncludedPicks,
            static (f, _, v, _) => f with { IncludedPicks = v }
        )
        {
            Around = ("includes ", ""),
            Words = static (f, _) =>
                f.IncludedPicks == 0 ? ""
                : f.IncludedPicks == 1 ? "one pick"
                : $"{f.IncludedPicks} picks",
        },
        new FieldSetting<AnswerValue?>(
            "default",
            ValueForms.Answer,
            static (f, _) => f.Default,
            static (f, _, v, _) => f with { Default = v }
        )
        {
            Around = ("holds at first ", ""),
            Words = static (f, words) => words.Proposed(f),
        },
        new FieldSetting<bool>(
            "default_must_change",
            ValueForms.Truth,
            static (f, _) => f.DefaultMustChange,
            static (f, _, v, _) => f with { DefaultMustChange = v }
        ),
        Toggle("shares_row", "shares a row with the one before", static f => f.SharesRow, static (f, v) => f with { SharesRow = v }, null),
        Toggle(
            "given_by_page",
            "given by the page’s script",
            static f => f.GivenByPage,
            static (f, v) => f with { GivenByPage = v },
            null,
            KeptBy.AllOwn
        ),
        Toggle(
            "kept_off_form",
            "kept off the form",
            static f => f.KeptOffForm,
            static (f, v) => f with { KeptOffForm = v },
            null,
            KeptBy.AllOwn
        ),
        Toggle(
            "sensitive",
            "answers are sensitive",
            static f => f.Sensitive,
            static (f, v) => f with { Sensitive = v },
            new("sensitive, so covered on the order page until somebody asks", "that it is sensitive", "take away")
        ),
        Toggle(
            "personal",
            "answers are personal",
            static f => f.Personal,
            static (f, v) => f with { Personal = v },
            new("about a person, so it goes when the order is erased", "that it is about a person", "it says nothing of a person")
        ),
        Toggle(
            "switched_off",
            "switched off",
            static f => f.SwitchedOff,
            static (f, v) => f with { SwitchedOff = v },
            null,
            KeptBy.NeededOwn
        ),
        Toggle("retired", "retired", static f => f.Retired, static (f, v) => f with { Retired = v }, null, KeptBy.AllOwn),
        new FieldSetting<string>(
            "type",
            ValueForms.Key,
            static (f, _) => f.Type,
            static (f, _, v, _) => f with { Type = v, Settings = f.Settings.Clear(), Default = null }
        )
        {
            KeptBy = KeptBy.AllOwn,
        },
        new FieldSetting<JsonElement>(
            "settings",
            ValueForms.Any,
            static (f, part) => f.Settings.TryGetValue(part, out var value) ? value : EditValue.Json<string?>(null),
            static (f, part, v, at) => f with { Settings = OfType(f, part, v, at.Path) }
        )
        {
            HasParts = true,
            Clauses = static (old, then, now, here) =>
                SideWords
                    .Clauses(here.TypeOf(now)?.Settings ?? [], old?.Settings, now.Settings)
                    .Append(new("offers only under a condition ", old is null ? "" : then.Offers(old), here.Offers(now), "")),
        },
        new FieldSetting<bool>(
            "goes_to",
            ValueForms.Truth,
            static (f, part) => f.GoesTo.Contains(part),
            static (f, part, v, at) =>
                f with
                {
                    GoesTo = !v && f.LeftOut.Contains(part) ? f.GoesTo : at.Switched(f.GoesTo, f.Level, part, v),
                    LeftOut = f.LeftOut.Remove(part),
                }
        )
        {
            HasParts = true,
            Clauses = static (old, then, now, here) =>
                [
                    .. RouteWords.Of(old?.GoesTo, then, now.GoesTo, here),
                    new("is left out at ", old is null ? "" : then.LeftOut(old), here.LeftOut(now), "", AboutRoute: true),
                ],
        },
        new FieldSetting<bool>(
            "price_within",
            ValueForms.Truth,
            static (f, part) => f.PriceWithin.Contains(part),
            static (f, part, v, at) => f with { PriceWithin = PriceWithin(f, part, v, at) }
        )
        {
            HasParts = true,
            AboutRoute = true,
            Around = ("shows its price within the goods on ", ""),
            Words = static (f, words) =>
                string.Join(", ", words.Phrases(f.PriceWithin).Concat(f.PriceWithin.Contains(Field.OnTheForm) ? ["the form"] : [])),
        },
        new FieldSetting<Condition?>(
            "goes_to_when",
            ValueForms.Condition,
            static (f, part) => f.GoesToWhen.GetValueOrDefault(part),
            static (f, part, v, at) => f with { GoesToWhen = GoesToWhen(f, part, v, at) }
        )
        {
            HasParts = true,
            Clauses = static (old, then, now, here) => RouteWords.Conditions(old?.GoesToWhen, then, now.GoesToWhen, here),
        },
    ];

    private static readonly FrozenDictionary<string, FieldSetting> ByName = All.ToFrozenDictionary(
        static s => s.Name,
        StringComparer.Ordinal
    );

    /// <summary>The value of one setting of a field.</summary>
    /// <param name="field">The field.</param>
    /// <param name="path">The path of the setting, such as "label.en".</param>
    /// <exception cref="DraftEditException">There is no such setting.</exception>
    /// <example><code>FieldSettings.Read(field, "goes_to.back_office")</code></example>
    public static JsonElement Read(Field field, string path)
    {
        var (setting, part) = At(path);
        return setting.Read(field, part);
    }

    /// <summary>The field with one setting changed. A null for a type's setting takes it back to its default.</summary>
    /// <param name="field">The field.</param>
    /// <param name="path">The path of the setting, such as "label.en".</param>
    /// <param name="value">The value.</param>
    /// <param name="destinations">Where answers can go.</param>
    /// <exception cref="DraftEditException">There is no such setting, the value does not fit it, or a built-in field needs it as it is.</exception>
    /// <example><code>FieldSettings.Apply(field, "sensitive", JsonSerializer.SerializeToElement(true), destinations)</code></example>
    public static Field Apply(Field field, string path, JsonElement value, DestinationIndex destinations)
    {
        var (setting, part) = At(path);
        return setting.Apply(field, part, value, new EditContext(path, destinations));
    }

    private static (FieldSetting Setting, string Part) At(string path)
    {
        var (name, part) = EditValue.Split(path);
        return ByName.TryGetValue(name, out var setting) && setting.HasParts == part.Length > 0
            ? (setting, part)
            : throw new DraftEditException(path, $"A field has no setting “{path}”.");
    }

    private static FieldSetting<string> Words(
        string name,
        int longest,
        string lead,
        Func<Field, LanguageMap> get,
        Func<Field, LanguageMap, Field> set
    ) =>
        new(
            name,
            ValueForms.Text(longest),
            (f, part) => get(f).Texts.GetValueOrDefault(part, ""),
            (f, part, v, at) => set(f, In(get(f), part, v, at.Path))
        )
        {
            HasParts = true,
            Around = (lead, ""),
            Words = (f, _) => SideWords.Quoted(get(f)),
        };

    private static FieldSetting<string> Text(
        string name,
        int longest,
        string lead,
        Func<Field, string> get,
        Func<Field, string, Field> set
    ) =>
        new(name, ValueForms.Text(longest), (f, _) => get(f), (f, _, v, _) => set(f, v))
        {
            Around = (lead, ""),
            Words = (f, _) => SideWords.Quoted(get(f)),
        };

    private static FieldSetting<bool> Toggle(
        string name,
        string words,
        Func<Field, bool> get,
        Func<Field, bool, Field> set,
        ToggleWords? drawn,
        KeptBy keptBy = KeptBy.None
    ) =>
        new(name, ValueForms.Truth, (f, _) => get(f), (f, _, v, _) => set(f, v))
        {
            Words = (f, _) => SideWords.Flag(get(f), words),
            Toggle = drawn,
            KeptBy = keptBy,
        };

    private static LanguageMap In(LanguageMap map, string language, string text, string path) =>
        language.Length is >= 2 and <= 12 && language.All(static c => char.IsAsciiLetterOrDigit(c) || c == '-')
            ? map.With(language, text)
            : throw new DraftEditException(path, $"“{language}” is not the tag of a language.");

    private static bool Required(Field field, bool required, string path) =>
        required || !BuiltInFields.MustBeAnswered(field.Key)
            ? required
            : throw new DraftEditException(path, $"“{field.Label}” must be answered: an order cannot be fulfilled without it.");

    private static Field WithLevel(Field field, Level level, DestinationIndex destinations) =>
        field with
        {
            Level = level,
            Section = null,
            GoesTo = [.. field.GoesTo.Where(key => destinations.Find(key)?.Takes(level) == true)],
            LeftOut = [.. field.LeftOut.Where(key => destinations.Find(key)?.Takes(level) == true)],
        };

    private static ImmutableSortedDictionary<string, JsonElement> OfType(Field field, string name, JsonElement value, string path) =>
        field.BuiltIn && name == OneOf.Choices && !HasSameChoices(field, value)
            ? throw new DraftEditException(
                path,
                $"“{field.Label}” is a question of the shop’s own: its choices are called and ordered as you like, and stay what they are."
            )
        : value.ValueKind == JsonValueKind.Null ? field.Settings.Remove(name)
        : field.Settings.SetItem(name, value);

    // What they are called, and when they are offered, is the shop's matter; what they are, the job's.
    private static bool HasSameChoices(Field field, JsonElement value) =>
        value.ValueKind == JsonValueKind.Array
        && value
            .EnumerateArray()
            .Select(static c =>
                c.ValueKind == JsonValueKind.Object && c.TryGetProperty("key", out var key) && key.ValueKind == JsonValueKind.String
                    ? key.GetString()!
                    : ""
            )
            .Order(StringComparer.Ordinal)
            .SequenceEqual(OneOf.ChoicesIn(field.Settings).Select(static c => c.Key).Order(StringComparer.Ordinal));

    private static ImmutableSortedSet<string> PriceWithin(Field field, string shownAt, bool within, EditContext at) =>
        shownAt != Field.OnTheForm && at.Destinations.Find(shownAt)?.Kind.ShowsPrices != true
            ? throw new DraftEditException(at.Path, $"No prices are shown at “{shownAt}”.")
        : within ? field.PriceWithin.Add(shownAt)
        : field.PriceWithin.Remove(shownAt);

    private static ImmutableSortedDictionary<string, Condition> GoesToWhen(
        Field field,
        string destination,
        Condition? condition,
        EditContext at
    ) => RouteWords.With(field.GoesToWhen, at.Known(destination).Key, condition);
}
