using System.Collections.Immutable;
using System.Text.Json.Serialization;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>How a day is written where it is to be read by something that has a form of its own for it.</summary>
public enum DayForm
{
    /// <summary>27.11.2026.</summary>
    Dotted,

    /// <summary>27/11/2026.</summary>
    Slashed,

    /// <summary>11/27/2026.</summary>
    MonthFirst,

    /// <summary>2026-11-27, the extended format of ISO 8601.</summary>
    Hyphened,

    /// <summary>20261127, the basic format of ISO 8601.</summary>
    Compact,
}

/// <summary>What can have another word at a destination.</summary>
/// <param name="Key">The key of the choice, or "yes", "no".</param>
/// <param name="Label">What it is called otherwise.</param>
public sealed record NamedValue(string Key, LanguageMap Label);

/// <summary>Other words, at one destination, for what answers to one field can be: "M" for "medium", 27.11.2026.</summary>
public sealed record WordsThere
{
    /// <summary>No other words.</summary>
    public static readonly WordsThere None = new();

    /// <summary>The words, by the key of the choice, or "yes", "no".</summary>
    public ImmutableSortedDictionary<string, string> Values { get; init; } = ImmutableSortedDictionary<string, string>.Empty;

    /// <summary>How days are written; null for as they are written otherwise.</summary>
    public DayForm? Days { get; init; }

    /// <summary>Whether it changes nothing.</summary>
    [JsonIgnore]
    public bool IsEmpty => Values.IsEmpty && Days is null;

    /// <summary>What something is called there.</summary>
    /// <param name="key">The key of the choice, or "yes", "no".</param>
    /// <param name="otherwise">What it is called without them.</param>
    internal LanguageMap Of(string key, LanguageMap otherwise) => Values.TryGetValue(key, out var word) ? LanguageMap.Of(word) : otherwise;

    /// <summary>Choices with what they are called there.</summary>
    internal ImmutableArray<Choice> Of(ImmutableArray<Choice> choices) =>
        Values.IsEmpty ? choices : [.. choices.Select(c => c with { Label = Of(c.Key, c.Label) })];

    /// <inheritdoc/>
    public bool Equals(WordsThere? other) => other is not null && Days == other.Days && Values.SequenceEqual(other.Values);

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Days, Values.Count);
}

/// <summary>Writes days in a form.</summary>
public static class DayForms
{
    /// <summary>A day in a form.</summary>
    /// <param name="form">The form.</param>
    /// <param name="day">The day as full-date of RFC 3339.</param>
    /// <example><code>DayForm.Dotted.Write("2026-11-27") // "27.11.2026"</code></example>
    public static string Write(this DayForm form, string day)
    {
        var (year, month, date) = (day[..4], day[5..7], day[8..10]);
        return form switch
        {
            DayForm.Dotted => $"{date}.{month}.{year}",
            DayForm.Slashed => $"{date}/{month}/{year}",
            DayForm.MonthFirst => $"{month}/{date}/{year}",
            DayForm.Compact => year + month + date,
            _ => day,
        };
    }
}
