using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Values;

namespace Sexton.Core.Types.Settings;

/// <summary>A list of short texts, such as refused words.</summary>
/// <param name="name">The name in the settings object.</param>
/// <param name="clause">The sentence.</param>
/// <param name="offer">What it is called while not set.</param>
public sealed class TextsSetting(string name, string clause, string offer) : TypeSetting(name, clause, offer)
{
    private const int MostTexts = 500;
    private const int LongestText = 60;

    /// <inheritdoc/>
    public override string Kind => "texts";

    /// <summary>Whether every text is a day (ISO 8601).</summary>
    public bool Days { get; init; }

    /// <inheritdoc/>
    public override JsonObject Schema =>
        new()
        {
            ["type"] = "array",
            ["maxItems"] = MostTexts,
            ["items"] = Days
                ? new JsonObject { ["type"] = "string", ["format"] = "date" }
                : new JsonObject
                {
                    ["type"] = "string",
                    ["minLength"] = 1,
                    ["maxLength"] = LongestText,
                },
        };

    /// <inheritdoc/>
    public override string? Check(JsonElement value)
    {
        if (
            value.ValueKind == JsonValueKind.Array
            && value.GetArrayLength() <= MostTexts
            && value.EnumerateArray().All(t => t.ValueKind == JsonValueKind.String && IsGood(t.GetString()!))
        )
        {
            return null;
        }

        return Days
            ? "Give days as 2027-03-31, separated by commas."
            : $"Give at most {MostTexts} words, each of at most {LongestText} characters, separated by commas.";
    }

    /// <inheritdoc/>
    public override string InWords(JsonElement value) => string.Join(", ", value.EnumerateArray().Select(static t => t.GetString()));

    private bool IsGood(string text) =>
        Days
            ? DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out _)
            : CanonicalText.TryMake(text, out var canonical) && canonical.Length > 0 && Graphemes.FitIn(canonical, LongestText);
}

/// <summary>One or several of a fixed list.</summary>
/// <param name="name">The name in the settings object.</param>
/// <param name="clause">The sentence.</param>
/// <param name="offer">What it is called while not set.</param>
/// <param name="options">The options, by stable key, with what the interface calls them.</param>
/// <param name="several">Whether several can be picked.</param>
public sealed class OptionSetting(
    string name,
    string clause,
    string offer,
    ImmutableArray<KeyValuePair<string, string>> options,
    bool several = false
) : TypeSetting(name, clause, offer)
{
    /// <inheritdoc/>
    public override string Kind => several ? "options" : "option";

    /// <summary>The options, by stable key, with what the interface calls them.</summary>
    public ImmutableArray<KeyValuePair<string, string>> Options => options;

    /// <inheritdoc/>
    public override JsonObject Schema
    {
        get
        {
            var one = new JsonObject { ["enum"] = new JsonArray([.. options.Select(o => (JsonNode)JsonValue.Create(o.Key))]) };
            return several
                ? new()
                {
                    ["type"] = "array",
                    ["items"] = one,
                    ["uniqueItems"] = true,
                }
                : one;
        }
    }

    /// <inheritdoc/>
    public override string? Check(JsonElement value)
    {
        var good = several
            ? value.ValueKind == JsonValueKind.Array
                && value.EnumerateArray().All(IsOption)
                && value.EnumerateArray().DistinctBy(static v => v.ToString()).Count() == value.GetArrayLength()
            : IsOption(value);
        return good ? null : $"Choose from: {string.Join(", ", options.Select(static o => o.Value))}.";
    }

    /// <inheritdoc/>
    public override string InWords(JsonElement value) =>
        several
            ? string.Join(", ", options.Where(o => value.EnumerateArray().Any(v => v.GetString() == o.Key)).Select(static o => o.Value))
            : options.First(o => o.Key == value.GetString()).Value;

    private bool IsOption(JsonElement value) => value.ValueKind == JsonValueKind.String && options.Any(o => o.Key == value.GetString());
}

/// <summary>Something that is so or not.</summary>
/// <param name="name">The name in the settings object.</param>
/// <param name="clause">The sentence for when it is so.</param>
/// <param name="offer">What it is called while it is not so.</param>
public sealed class ToggleSetting(string name, string clause, string offer) : TypeSetting(name, clause, offer)
{
    /// <inheritdoc/>
    public override string Kind => "toggle";

    /// <inheritdoc/>
    public override JsonObject Schema => new() { ["type"] = "boolean" };

    /// <inheritdoc/>
    public override string? Check(JsonElement value) =>
        value.ValueKind is JsonValueKind.True or JsonValueKind.False ? null : "Say true or false.";

    /// <inheritdoc/>
    public override string InWords(JsonElement value) => value.GetBoolean() ? "yes" : "no";
}
