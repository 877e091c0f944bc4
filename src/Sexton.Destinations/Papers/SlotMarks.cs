using System.Globalization;
using System.Text.RegularExpressions;

namespace Sexton.Destinations.Papers;

/// <summary>
/// How the place of an answer is named in a paper: by private subtags of the language of each of its lines (RFC 5646, section 2.2.7), which Chromium writes as the
/// language of an element of the PDF's structure (ISO 32000-1, 14.9.2). "de-x-s3-n0" is the first line of the third answer, in German; "de-x-tab" is a tab.
/// </summary>
internal static partial class SlotMarks
{
    /// <summary>The mark of a line of an answer.</summary>
    /// <param name="language">The language of the paper.</param>
    /// <param name="number">The number of the answer in what was sent, from 1.</param>
    /// <param name="line">The line, from 0.</param>
    public static string Line(string language, int number, int line) =>
        string.Create(CultureInfo.InvariantCulture, $"{language}-x-s{number}-n{line}");

    /// <summary>The mark of a tab, in whose place blanks are printed.</summary>
    /// <param name="language">The language of the paper.</param>
    public static string Tab(string language) => language + "-x-tab";

    /// <summary>Which line of which answer a mark names; null where it names none.</summary>
    public static (int Number, int Line)? Read(string language) =>
        Mark().Match(language) is { Success: true } m ? (Whole(m.Groups["number"].ValueSpan), Whole(m.Groups["line"].ValueSpan)) : null;

    /// <summary>Whether a mark is that of a tab.</summary>
    public static bool IsTab(string language) => language.EndsWith("-x-tab", StringComparison.Ordinal);

    private static int Whole(ReadOnlySpan<char> digits) => int.Parse(digits, NumberStyles.None, CultureInfo.InvariantCulture);

    [GeneratedRegex(@"-x-s(?<number>[0-9]{1,6})-n(?<line>[0-9]{1,6})\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex Mark();
}
