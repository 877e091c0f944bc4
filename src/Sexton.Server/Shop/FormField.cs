using System.Collections.Concurrent;
using System.Runtime.CompilerServices;
using System.Security.Cryptography;
using System.Text.Json;
using System.Text.Json.Serialization;
using Sexton.Core.Plan;
using Sexton.Core.Sentences;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Server.Shop;

/// <summary>A field as the form draws it, wherever in the cart it is asked.</summary>
/// <param name="Key">The key of the field.</param>
/// <param name="Step">The key of the step.</param>
/// <param name="Section">The key of the section that it stands in, or null.</param>
/// <param name="Opens">Whether it is the opening question of that section.</param>
/// <param name="Type">The key of the kind of answer.</param>
/// <param name="AsksNothing">Whether nothing is entered: it only says something, or shows what was worked out.</param>
/// <param name="Label">The question.</param>
/// <param name="Help">A sentence of help, or "".</param>
/// <param name="Placeholder">An example, or "".</param>
/// <param name="Picture">The file name of a picture, or "".</param>
/// <param name="PictureWords">What the picture shows, for those who cannot see it; "" where it says nothing more.</param>
/// <param name="SharesRow">Whether it stands in one row with the field before it.</param>
/// <param name="GivenByPage">Whether a script of the page gives the answer, and nobody by hand.</param>
/// <param name="KeptOff">Whether what the page gives is not shown.</param>
/// <param name="Unit">What stands beside the control, or "".</param>
/// <param name="Default">What the control holds before it was touched, or null.</param>
/// <param name="Settings">The settings that the form needs.</param>
/// <param name="Choices">All its choices; where it is asked stands which of them are offered there.</param>
/// <param name="Days">Of a day: which can be chosen today; left out where all can.</param>
/// <param name="StandsAfter">The part of an address after which it stands, such as "delivery_address.street"; left out where it stands by itself.</param>
internal sealed record FormField(
    string Key,
    string Step,
    string? Section,
    bool Opens,
    string Type,
    bool AsksNothing,
    string Label,
    string Help,
    string Placeholder,
    string Picture,
    string PictureWords,
    bool SharesRow,
    bool GivenByPage,
    bool KeptOff,
    string Unit,
    AnswerValue? Default,
    IReadOnlyDictionary<string, JsonElement> Settings,
    IReadOnlyList<ChoiceView> Choices,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] OpenDaysView? Days = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? StandsAfter = null
)
{
    // A plan has few languages; more than these are made up by whoever sends them, and are not worth keeping.
    private const int MostLanguages = 32;

    private const int DigestBytes = 8;

    private static readonly ConditionalWeakTable<RegisterPlan, OfDay> Known = [];

    [JsonIgnore]
    private byte[] Digest => field ??= SHA256.HashData(JsonSerializer.SerializeToUtf8Bytes(this, DocumentJson.Options))[..DigestBytes];

    /// <summary>The forms of fields in a language. A plan never changes, so each is made once a day: which days can be chosen moves on with it.</summary>
    /// <param name="plan">The plan.</param>
    /// <param name="fields">Fields of the plan.</param>
    /// <param name="language">The language of the shopper.</param>
    /// <param name="today">Today, in the time zone of the shop.</param>
    public static FormField[] Of(RegisterPlan plan, IReadOnlyCollection<PlannedField> fields, string language, DateOnly today)
    {
        var languages = LanguagesOf(plan, today);
        if (!languages.TryGetValue(language, out var made))
        {
            made = new FormField?[plan.InOrder.Length];
            if (languages.Count < MostLanguages)
            {
                made = languages.GetOrAdd(language, made);
            }
        }

        // Made by two requests at once it is the same twice.
        return [.. fields.Select(f => made[f.Ordinal] ??= Make(f, plan.Wording, language, today))];
    }

    /// <summary>A digest of forms, in their order: a page that has forms of the same digest has the same forms.</summary>
    public static string DigestOf(FormField[] forms)
    {
        var digests = new byte[forms.Length * DigestBytes];
        for (var i = 0; i < forms.Length; i++)
        {
            forms[i].Digest.CopyTo(digests, i * DigestBytes);
        }

        return Convert.ToHexStringLower(SHA256.HashData(digests)[..DigestBytes]);
    }

    private static ConcurrentDictionary<string, FormField?[]> LanguagesOf(RegisterPlan plan, DateOnly today)
    {
        if (!Known.TryGetValue(plan, out var known) || known.Today != today)
        {
            known = new OfDay(today, new ConcurrentDictionary<string, FormField?[]>(StringComparer.Ordinal));
            Known.AddOrUpdate(plan, known);
        }

        return known.Languages;
    }

    private static FormField Make(PlannedField planned, Wording wording, string language, DateOnly today)
    {
        var field = planned.Field;
        return new FormField(
            field.Key,
            field.Step,
            planned.Section?.Key ?? field.Section,
            planned.Section is not null,
            field.Type,
            planned.Type.AsksNothing || planned.Type.IsComputed,
            field.Label.In(language),
            field.Help.In(language),
            field.Placeholder.In(language),
            field.Picture,
            field.PictureWords.In(language),
            field.SharesRow,
            field.GivenByPage,
            field.GivenByPage && field.KeptOffForm,
            planned.Rule.Unit,
            field.Default,
            SettingsOf(planned, wording, language),
            [
                .. planned.Rule.Choices.Select(c => new ChoiceView(
                    c.Key,
                    c.Label.In(language),
                    c.Picture,
                    c.PictureWords.In(language),
                    c.Colour,
                    c.Excludes
                )),
            ],
            OpenDaysView.Of(planned.Rule.OpenDaysOn(today)),
            field.StandsAfter
        );
    }

    private sealed record OfDay(DateOnly Today, ConcurrentDictionary<string, FormField?[]> Languages);

    // Only what the form draws with, in the shopper's language; limits are checked here and told in sentences.
    private static Dictionary<string, JsonElement> SettingsOf(PlannedField planned, Wording wording, string language)
    {
        var settings = new Dictionary<string, JsonElement>(planned.Rule.ForTheForm(language), StringComparer.Ordinal);
        var reader = new SettingReader(planned.Type, planned.Field.Settings, wording);
        foreach (var setting in planned.Type.Settings.Where(static s => s.ForTheForm))
        {
            if (reader.Find(setting.Name) is { } value)
            {
                settings[setting.Name] =
                    setting is WordingSetting ? JsonSerializer.SerializeToElement(reader.Wording(setting.Name).In(language)) : value;
            }
        }

        return settings;
    }
}

/// <summary>Which days can be chosen.</summary>
/// <param name="From">The first (RFC 3339, full-date); null for any.</param>
/// <param name="To">The last; null for any.</param>
/// <param name="WeekdaysOut">The days of the week that are left out; Sunday is 0.</param>
/// <param name="DaysOut">Single days that are left out.</param>
internal sealed record OpenDaysView(DateOnly? From, DateOnly? To, IReadOnlyList<int> WeekdaysOut, IReadOnlyList<DateOnly> DaysOut)
{
    public static OpenDaysView? Of(OpenDays? days) =>
        days is null ? null : new OpenDaysView(days.From, days.To, [.. days.WeekdaysOut.Select(static d => (int)d)], days.DaysOut);
}

/// <summary>A choice.</summary>
internal sealed record ChoiceView(string Key, string Label, string Picture, string PictureWords, string Colour, bool Excludes);
