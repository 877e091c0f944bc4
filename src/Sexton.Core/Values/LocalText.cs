using System.Globalization;
using System.Text.RegularExpressions;

namespace Sexton.Core.Values;

/// <summary>
/// Writes days and numbers for people, as their language does (Unicode CLDR, by the platform). Amounts of money are written by <see cref="MoneyText"/>.
/// </summary>
public static partial class LocalText
{
    /// <summary>A day as full-date of RFC 3339 (a profile of ISO 8601).</summary>
    internal const string IsoDay = "yyyy-MM-dd";

    /// <summary>A day in full, without the day of the week: "7 December 2026".</summary>
    public static string Day(DateOnly day, string language)
    {
        var culture = LanguageTag.CultureOf(language);
        return day.ToString(DayPattern(culture), culture);
    }

    /// <summary>How a language writes a day in full, without the day of the week.</summary>
    internal static string DayPattern(CultureInfo culture) => DayOfWeek().Replace(culture.DateTimeFormat.LongDatePattern, "");

    /// <summary>The same of a day as ISO 8601 writes it; any other text as it is.</summary>
    public static string Day(string text, string language) =>
        DateOnly.TryParseExact(text, IsoDay, CultureInfo.InvariantCulture, DateTimeStyles.None, out var day) ? Day(day, language) : text;

    /// <summary>The day of the week of a day.</summary>
    public static string WeekdayOf(DateOnly day, string language) => day.ToString("dddd", LanguageTag.CultureOf(language));

    /// <summary>
    /// A number with the decimal separator of a language, and none for thousands: a number may be a year, and "2,026" is none.
    /// </summary>
    public static string Number(decimal number, string language) =>
        // Whole numbers are written with the same digits in every language, and small ones need not be made anew.
        number is >= 0 and <= int.MaxValue
        && number.Scale == 0
            ? ((int)number).ToString(CultureInfo.InvariantCulture)
            : number.ToString("0.############################", LanguageTag.CultureOf(language));

    [GeneratedRegex(@"^dddd[,.]?\s*|[,\s]*dddd$", RegexOptions.NonBacktracking)]
    private static partial Regex DayOfWeek();
}
