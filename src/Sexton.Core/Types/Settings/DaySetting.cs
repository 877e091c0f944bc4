using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization;
using Sexton.Core.Values;

namespace Sexton.Core.Types.Settings;

/// <summary>
/// A day, fixed or counted from today: {"day": "2027-03-31"} or {"from_today": 14}; a negative count lies in the past.
/// </summary>
/// <param name="Day">The fixed day, or null.</param>
/// <param name="FromToday">How many days after today, or null.</param>
public sealed record DayLimit(DateOnly? Day, int? FromToday)
{
    /// <summary>The day itself, seen from a day.</summary>
    public DateOnly On(DateOnly today) => Day ?? today.AddDays(FromToday ?? 0);

    /// <summary>True when it says exactly one of the two.</summary>
    [JsonIgnore]
    public bool IsClear => Day is null != FromToday is null && FromToday is null or (>= -36_500 and <= 36_500);
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
                Object(
                    "from_today",
                    new JsonObject
                    {
                        ["type"] = "integer",
                        ["minimum"] = -36_500,
                        ["maximum"] = 36_500,
                    }
                )
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
            { FromToday: 0 } => "today",
            { FromToday: 1 } => "tomorrow",
            { FromToday: > 0 and var days } => string.Create(CultureInfo.InvariantCulture, $"{days} days from today"),
            { FromToday: var days } => string.Create(CultureInfo.InvariantCulture, $"{-days} days ago"),
        };
    }

    private const string Wrong = "Give a day as 2027-03-31, or a number of days from today.";

    private static JsonObject Object(string member, JsonObject schema) =>
        new()
        {
            ["type"] = "object",
            ["required"] = new JsonArray(member),
            ["additionalProperties"] = false,
            ["properties"] = new JsonObject { [member] = schema },
        };
}
