using System.Globalization;
using System.Text.RegularExpressions;
using PhoneNumbers;

namespace Sexton.Core.Values;

/// <summary>
/// Finds what is one word however it is spaced: telephone numbers and dates (common practice where texts are sold by the word). Numbers are found by
/// libphonenumber; for dates no library that is kept could be had, so that they are found here: a day, a month by number or name, and a year, or a day with the
/// name of a month. What is no day of the calendar is no date.
/// </summary>
internal static partial class SpacedWords
{
    // Of the others the short names would be words of English: "may" of Spanish.
    private static readonly string[] WithShortNames = ["en", "de", "fr", "nl"];
    private static readonly string[] Languages = [.. WithShortNames, "es", "it", "ga"];

    // As a language writes it, as it stands at the beginning of a sentence, and in capitals: "may" is no month, "May" is.
    private static readonly Dictionary<string, int> Months = NamesOfMonths();

    private static readonly Regex Named = new(
        $@"(?<![\p{{L}}\p{{N}}])(?:(?<day>\d{{1,2}})(?:\.|st|nd|rd|th|er|º|e)?\s+(?:of\s+|de\s+)?(?<month>{Names})\.?|(?<month>{Names})\.?\s+(?<day>\d{{1,2}})(?:st|nd|rd|th)?)(?:,?\s+(?:de\s+|del\s+)?(?<year>\d{{4}}))?(?![\p{{L}}\p{{N}}])",
        RegexOptions.CultureInvariant,
        TimeSpan.FromSeconds(1)
    );

    private static string Names => string.Join('|', Months.Keys.OrderByDescending(static n => n.Length).Select(Regex.Escape));

    /// <summary>The places of a text that are one word each although white space stands in them, from its beginning on; none of them meet.</summary>
    /// <param name="text">The text.</param>
    /// <param name="home">The country whose numbers are known without its code (ISO 3166-1 alpha-2); "" for none.</param>
    public static List<Range> In(string text, string home)
    {
        var found = new List<Range>();
        if (!HasSpacedDigits(text))
        {
            return found;
        }

        foreach (var day in Numeric().Matches(text).Concat(Named.Matches(text)).Where(IsDay))
        {
            AddTo(found, day.Index, day.Length);
        }

        foreach (var number in PhoneNumberUtil.GetInstance().FindNumbers(text, home.Length == 2 ? home : null))
        {
            AddTo(found, number.Start, number.Length);
        }

        found.Sort(static (a, b) => a.Start.Value.CompareTo(b.Start.Value));
        return found;
    }

    // Of two that meet the first found counts.
    private static void AddTo(List<Range> found, int start, int length)
    {
        if (!found.Exists(f => f.Start.Value < start + length && start < f.End.Value))
        {
            found.Add(start..(start + length));
        }
    }

    // Looking for numbers takes long, and most texts have none.
    private static bool HasSpacedDigits(string text) => text.AsSpan().IndexOfAnyInRange('0', '9') >= 0 && text.Any(char.IsWhiteSpace);

    private static bool IsDay(Match match)
    {
        int Number(string part) => int.Parse(match.Groups[part].ValueSpan, CultureInfo.InvariantCulture);
        var month = match.Groups["month"].Value;
        var year = match.Groups["year"].Success ? Number("year") : 2000;
        var (m, d) = (Months.TryGetValue(month, out var named) ? named : Number("month"), Number("day"));
        return year > 0 && m is >= 1 and <= 12 && d >= 1 && d <= DateTime.DaysInMonth(year, m);
    }

    [GeneratedRegex(
        @"(?<![\p{L}\p{N}])(?:(?<day>\d{1,2})(?:\s*[./-]\s*|\s+)(?<month>\d{1,2})(?:\s*[./-]\s*|\s+)(?<year>\d{4})|(?<year>\d{4})(?:\s*[./-]\s*|\s+)(?<month>\d{1,2})(?:\s*[./-]\s*|\s+)(?<day>\d{1,2}))(?![\p{L}\p{N}])",
        RegexOptions.CultureInvariant,
        matchTimeoutMilliseconds: 1000
    )]
    private static partial Regex Numeric();

    private static Dictionary<string, int> NamesOfMonths()
    {
        var months = new Dictionary<string, int>(StringComparer.Ordinal);
        foreach (var culture in Languages.Select(CultureInfo.GetCultureInfo))
        {
            var form = culture.DateTimeFormat;
            string[][] shortNames = WithShortNames.Contains(culture.Name) ? [form.AbbreviatedMonthNames] : [];
            foreach (var names in (string[][])[form.MonthNames, form.MonthGenitiveNames, .. shortNames])
            {
                for (var month = 0; month < 12; month++)
                {
                    var name = names[month].TrimEnd('.');
                    if (name.Any(char.IsLetter))
                    {
                        months.TryAdd(name, month + 1);
                        months.TryAdd(char.ToUpper(name[0], culture) + name[1..], month + 1);
                        months.TryAdd(name.ToUpper(culture), month + 1);
                    }
                }
            }
        }

        return months;
    }
}
