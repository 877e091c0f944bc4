using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization;
using Sexton.Core.Values;

namespace Sexton.Core.Types.Settings;

/// <summary>
/// A day, fixed or counted from today: {"day": "2027-03-31"}, {"from_today": 14} or {"years_from_today": -18}; a negative count lies in the past.
/// </summary>
/// <param name="Day">The fixed day, or null.</param>
/// <param name="FromToday">How many days after today, or null.</param>
/// <param name="YearsFromToday">How many years after today, or null.</param>
public sealed record DayLimit(DateOnly? Day, int? FromToday, int? YearsFromToday = null)
{
    internal const int MostDays = 36_500,
        MostYears = 150;

    /// <summary>
    /// The day itself, seen from a day. Years from a 29 February end on 28 February where the year has no other, so that whoever was born on that day is of an age on 1 March.
    /// </summary>
    public DateOnly On(DateOnly today) => Day ?? (YearsFromToday is { } years ? today.AddYears(years) : today.AddDays(FromToday ?? 0));

    /// <summary>True when it says exactly one of the three, within its range.</summary>
    [JsonIgnore]
    public bool IsClear =>
        new[] { Day is not null, FromToday is not null, YearsFromToday is not null }.Count(static said => said) == 1
        && FromToday is null or (>= -MostDays and <= MostDays)
        && YearsFromToday is null or (>= -MostYears and <= MostYears);
}

/// <summary>A day as a limit.</summary>
/// <param name="name">The name in the settings object.</param>
/// <param name="clause">The sentence.</param>
/// <param name="offer">What it is called while not set.</param>
public sealed class DaySetting(string name, string clause, string offer) : TypeSetting(name, clause, offer)
{
    /// <inheritdoc/>
    public override string Kind => "day";

    /// <inheritdoc/>
    public override JsonObject Schema =>
        new()
        {
            ["oneOf"] = new JsonArray(
                Object("day", new JsonObject { ["type"] = "string", ["format"] = "date" }),
                Object("from_today", Count(DayLimit.MostDays)),
                Object("years_from_today", Count(DayLimit.MostYears))
            ),
        };

    /// <inheritdoc/>
    public override string? Check(JsonElement value)
    {
        try
        {
            return value.ValueKind == JsonValueKind.Object && value.Deserialize<DayLimit>(DocumentJson.Options) is { IsClear: true }
                ? null
                : Wrong;
        }
        catch (JsonException)
        {
            return Wrong;
        }
    }

    /// <inheritdoc/>
    public override string InWords(JsonElement value)
    {
        var limit = value.Deserialize<DayLimit>(DocumentJson.Options)!;
        return limit switch
        {
            { Day: { } day } => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            { FromToday: 0 } or { YearsFromToday: 0 } => "today",
            { YearsFromToday: { } years } => FromToday(years, "year"),
            { FromToday: var days } => FromToday(days ?? 0, "day"),
        };
    }

    private static string FromToday(int count, string what) =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"{Math.Abs(count)} {what}{(Math.Abs(count) == 1 ? "" : "s")} {(count < 0 ? "before" : "after")} today"
        );

    private const string Wrong = "Give a day as 2027-03-31, or a number of days or years before or after today.";

    private static JsonObject Count(int most) =>
        new()
        {
            ["type"] = "integer",
            ["minimum"] = -most,
            ["maximum"] = most,
        };

    private static JsonObject Object(string member, JsonObject schema) =>
        new()
        {
            ["type"] = "object",
            ["required"] = new JsonArray(member),
            ["additionalProperties"] = false,
            ["properties"] = new JsonObject { [member] = schema },
        };
}
