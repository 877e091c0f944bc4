using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json.Nodes;
using Sexton.Core.Conditions;
using Sexton.Core.Register.Settings;

namespace Sexton.Core.Register.Types;

/// <summary>A day of the calendar, entered and kept as full-date of RFC 3339 (a profile of ISO 8601), from the year 1 on.</summary>
public sealed class CalendarDay : FieldType
{
    private const string Earliest = "earliest", Latest = "latest", LeadDays = "lead_days", Weekdays = "weekdays_left_out", Days = "days_left_out";

    // As many days as a lead can stretch over; more left-out days than that leave no day to choose.
    private const int FurthestSearch = 3_660;

    /// <inheritdoc/>
    public override string Key => "date";

    /// <inheritdoc/>
    public override string Name => "a date";

    /// <inheritdoc/>
    public override string ShortName => "date";

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
        new DaySetting(Earliest, "not before {}", "an earliest day"),
        new DaySetting(Latest, "not after {}", "a latest day"),
        new WholeNumberSetting(LeadDays, "with {} days to prepare, left-out days not counted", "days to prepare", 1, 366),
        new OptionSetting(Weekdays, "never on {}", "weekdays left out", [.. Enum.GetValues<DayOfWeek>().Select(static d => KeyValuePair.Create(d.ToString().ToLowerInvariant(), d.ToString()))], several: true),
        new TextsSetting(Days, "not on the days {}", "days left out") { Days = true },
    ];

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) => new Rule(
        settings.Day(Earliest),
        settings.Day(Latest),
        settings.Whole(LeadDays) ?? 0,
        [.. settings.Texts(Weekdays).Select(static d => Enum.Parse<DayOfWeek>(d, ignoreCase: true))],
        [.. settings.Texts(Days).Select(static d => DateOnly.ParseExact(d, Format, CultureInfo.InvariantCulture))]);

    /// <inheritdoc/>
    protected override IEnumerable<SettingProblem> Contradictions(SettingReader settings)
    {
        // Today moves, so only limits of one kind can contradict each other for ever.
        if (settings.Day(Earliest) is { } earliest && settings.Day(Latest) is { } latest && (earliest.Day > latest.Day || earliest.FromToday > latest.FromToday))
        {
            yield return new SettingProblem(Earliest, "The earliest day comes after the latest. Make one of them fit.");
        }

        if (settings.Texts(Weekdays).Length == 7)
        {
            yield return new SettingProblem(Weekdays, "Every day of the week is left out. Leave one in.");
        }
    }

    private const string Format = "yyyy-MM-dd";

    private sealed class Rule(DayLimit? earliest, DayLimit? latest, int leadDays, ImmutableHashSet<DayOfWeek> weekdays, ImmutableHashSet<DateOnly> days) : AnswerRule
    {
        public override int LongestText => Format.Length;

        public override FactKind Fact => FactKind.Day;

        public override JsonObject Schema => new() { ["type"] = "string", ["format"] = "date" };

        public override ImmutableArray<AnswerValue> Samples => earliest?.Day is { } day && !IsLeftOut(day) ? [AnswerValue.Of(Write(day))] : [];

        public override Reading Read(AnswerValue raw, IOccasion occasion)
        {
            var text = raw.Text?.Trim();
            if (!DateOnly.TryParseExact(text, Format, CultureInfo.InvariantCulture, DateTimeStyles.None, out var day))
            {
                return Reading.Refused(RefusalCodes.NotDay);
            }

            if (First(occasion.Today) is { } first && day < first)
            {
                return Reading.Refused(new Refusal(RefusalCodes.TooEarly, Write(first)));
            }

            if (latest?.On(occasion.Today) is { } last && day > last)
            {
                return Reading.Refused(new Refusal(RefusalCodes.TooLate, Write(last)));
            }

            return IsLeftOut(day)
                ? Reading.Refused(new Refusal(RefusalCodes.DayLeftOut, Write(day), day.DayOfWeek.ToString()))
                : Reading.Of(text == raw.Text ? raw : AnswerValue.Of(text!));
        }

        public override string TextOf(AnswerValue value, string language) => value.Text!;

        // The later of the earliest day and the day on which the preparing is done.
        private DateOnly? First(DateOnly today)
        {
            var fixedFirst = earliest?.On(today);
            if (leadDays == 0)
            {
                return fixedFirst;
            }

            var (ready, left) = (today, leadDays);
            for (var i = 0; left > 0 && i < FurthestSearch; i++)
            {
                ready = ready.AddDays(1);
                left -= IsLeftOut(ready) ? 0 : 1;
            }

            return fixedFirst > ready ? fixedFirst : ready;
        }

        private bool IsLeftOut(DateOnly day) => weekdays.Contains(day.DayOfWeek) || days.Contains(day);

        private static string Write(DateOnly day) => day.ToString(Format, CultureInfo.InvariantCulture);
    }
}
