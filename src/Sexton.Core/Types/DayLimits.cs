using System.Collections.Immutable;
using System.Globalization;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>The limits that a date and a time slot share. A day is written as full-date of RFC 3339 (a profile of ISO 8601).</summary>
internal sealed class DayLimits
{
    /// <summary>How a day is written.</summary>
    public const string Format = LocalText.IsoDay;

    private const string Earliest = "earliest",
        Latest = "latest",
        LeadDays = "lead_days",
        Weekdays = "weekdays_left_out",
        Days = "days_left_out";

    // As many days as a lead can stretch over; more left-out days than that leave no day to choose.
    private const int FurthestSearch = 3_660;

    // An example where nothing says more.
    private static readonly DateOnly Usual = new(2026, 11, 27);

    // It will not be an earlier day any more.
    private static readonly DateOnly Past = new(2026, 11, 1);

    private readonly DayLimit? _earliest;
    private readonly DayLimit? _latest;
    private readonly int _leadDays;
    private readonly ImmutableHashSet<DayOfWeek> _weekdays;
    private readonly ImmutableHashSet<DateOnly> _days;

    public DayLimits(SettingReader settings)
    {
        _earliest = settings.Day(Earliest);
        _latest = settings.Day(Latest);
        _leadDays = settings.Whole(LeadDays) ?? 0;
        _weekdays = [.. settings.Texts(Weekdays).Select(static d => Enum.Parse<DayOfWeek>(d, ignoreCase: true))];
        _days = [.. settings.Texts(Days).Select(static d => DateOnly.ParseExact(d, Format, CultureInfo.InvariantCulture))];
    }

    /// <summary>The settings.</summary>
    public static ImmutableArray<TypeSetting> Settings { get; } =
    [
        new DaySetting(Earliest, "not before {}", "an earliest day"),
        new DaySetting(Latest, "not after {}", "a latest day"),
        new WholeNumberSetting(LeadDays, "with {} days to prepare, left-out days not counted", "days to prepare", 1, 366),
        new OptionSetting(
            Weekdays,
            "never on {}",
            "weekdays left out",
            [.. Enum.GetValues<DayOfWeek>().Select(static d => KeyValuePair.Create(d.ToString().ToLowerInvariant(), d.ToString()))],
            several: true
        ),
        new TextsSetting(Days, "not on the days {}", "days left out") { Days = true },
    ];

    /// <summary>A day within the limits, where one is so whatever day it is today.</summary>
    public string? Sample =>
        _earliest?.Day is { } first ? (IsLeftOut(first) ? null : Write(first))
        : _earliest is null && _leadDays == 0 && LastBefore(_latest?.On(Past) ?? Usual) is { } day ? Write(day)
        : null;

    /// <summary>What contradicts what.</summary>
    public static IEnumerable<SettingProblem> Contradictions(SettingReader settings)
    {
        // Today moves, so only limits of one kind can contradict each other for ever.
        if (
            settings.Day(Earliest) is { } earliest
            && settings.Day(Latest) is { } latest
            && (earliest.Day > latest.Day || earliest.FromToday > latest.FromToday || earliest.YearsFromToday > latest.YearsFromToday)
        )
        {
            yield return new SettingProblem(Earliest, "The earliest day comes after the latest. Make one of them fit.");
        }

        if (settings.Texts(Weekdays).Length == 7)
        {
            yield return new SettingProblem(Weekdays, "Every day of the week is left out. Leave one in.");
        }
    }

    /// <summary>Reads a text as a day, and says what is wrong with it, seen from the day on which it is asked; null for nothing.</summary>
    /// <param name="text">The text, as the language of the shopper writes a day or as RFC 3339 does.</param>
    /// <param name="context">When and of whom it is asked.</param>
    /// <param name="written">The day as <see cref="Format"/>; the text itself where it is that already.</param>
    public Refusal? Read(string? text, IAnswerContext context, out string written)
    {
        var (today, language) = (context.Today, context.Language);
        written = text ?? "";

        // Most come as they are kept: nothing is made of them anew.
        if (!DateOnly.TryParseExact(text, Format, CultureInfo.InvariantCulture, DateTimeStyles.None, out var day))
        {
            if (!DayText.TryRead(text, language, out day))
            {
                return new Refusal(RefusalKeys.NotDay);
            }

            written = Write(day);
        }

        if (First(today) is { } first && day < first)
        {
            return new Refusal(RefusalKeys.TooEarly, LocalText.Day(first, language));
        }

        if (_latest?.On(today) is { } last && day > last)
        {
            return new Refusal(RefusalKeys.TooLate, LocalText.Day(last, language));
        }

        return IsLeftOut(day)
            ? new Refusal(RefusalKeys.DayLeftOut, LocalText.Day(day, language), LocalText.WeekdayOf(day, language))
            : null;
    }

    /// <summary>What a calendar must know, seen from a day: the first and last that can be chosen, and what is left out between; null where nothing is set.</summary>
    public OpenDays? OpenOn(DateOnly today) =>
        _earliest is null && _latest is null && _leadDays == 0 && _weekdays.IsEmpty && _days.IsEmpty
            ? null
            : new OpenDays(First(today), _latest?.On(today), [.. _weekdays.Order()], [.. _days.Order()]);

    // The later of the earliest day and the day on which the preparing is done.
    private DateOnly? First(DateOnly today)
    {
        var fixedFirst = _earliest?.On(today);
        if (_leadDays == 0)
        {
            return fixedFirst;
        }

        var (ready, left) = (today, _leadDays);
        for (var i = 0; left > 0 && i < FurthestSearch; i++)
        {
            ready = ready.AddDays(1);
            left -= IsLeftOut(ready) ? 0 : 1;
        }

        return fixedFirst > ready ? fixedFirst : ready;
    }

    private DateOnly? LastBefore(DateOnly last) =>
        Enumerable
            .Range(0, FurthestSearch)
            .Select(i => last.AddDays(-i))
            .Where(d => !IsLeftOut(d))
            .Select(static d => (DateOnly?)d)
            .FirstOrDefault();

    private bool IsLeftOut(DateOnly day) => _weekdays.Contains(day.DayOfWeek) || _days.Contains(day);

    private static string Write(DateOnly day) => day.ToString(Format, CultureInfo.InvariantCulture);
}
