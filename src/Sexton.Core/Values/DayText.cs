using System.Collections.Concurrent;
using System.Globalization;
using System.Text.RegularExpressions;

namespace Sexton.Core.Values;

/// <summary>
/// Reads a day as people write it in their language (Unicode CLDR, by the platform), or as ISO 8601 does. The year has four digits: of two nobody knows the
/// century. A day and a month in figures stand in the order of the language; what could only be meant the other way round is not guessed.
/// </summary>
public static partial class DayText
{
    private static readonly ConcurrentDictionary<string, string[]> Patterns = new(StringComparer.Ordinal);

    /// <summary>Reads a day; false where the text is none.</summary>
    /// <param name="text">What was typed, or stood in a cell of a spreadsheet.</param>
    /// <param name="language">The language of whoever typed it (BCP 47).</param>
    /// <param name="day">The day.</param>
    public static bool TryRead(string? text, string language, out DateOnly day)
    {
        if (DateOnly.TryParseExact(text, LocalText.IsoDay, CultureInfo.InvariantCulture, DateTimeStyles.None, out day))
        {
            return true;
        }

        if (text is null or { Length: > Longest })
        {
            return false;
        }

        var culture = LanguageTag.CultureOf(language);
        var plain = Between().Replace(Ordinal().Replace(text, "${day}"), " ").Trim();
        return DateOnly.TryParseExact(plain, PatternsOf(culture), culture, DateTimeStyles.None, out day)
            // As the language itself writes it in full, whatever words stand between.
            || DateOnly.TryParseExact(text, LocalText.DayPattern(culture), culture, DateTimeStyles.None, out day);
    }

    private static string[] PatternsOf(CultureInfo culture)
    {
        if (Patterns.TryGetValue(culture.Name, out var known))
        {
            return known;
        }

        var order = culture.DateTimeFormat.ShortDatePattern;
        var inFigures =
            order.IndexOf('M', StringComparison.Ordinal) < order.IndexOf('d', StringComparison.Ordinal) ? "M d yyyy" : "d M yyyy";
        return Patterns.GetOrAdd(culture.Name, [inFigures, "yyyy M d", "d MMM yyyy", "d MMMM yyyy", "MMM d yyyy", "MMMM d yyyy"]);
    }

    private const int Longest = 60;

    [GeneratedRegex(@"[\s,./-]+", RegexOptions.NonBacktracking)]
    private static partial Regex Between();

    // As in "1st May".
    [GeneratedRegex(@"\b(?<day>\d{1,2})(?:st|nd|rd|th)\b", RegexOptions.NonBacktracking | RegexOptions.IgnoreCase)]
    private static partial Regex Ordinal();
}
