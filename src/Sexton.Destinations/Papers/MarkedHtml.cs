using System.Globalization;
using System.Net;
using System.Text;

namespace Sexton.Destinations.Papers;

/// <summary>
/// Writes the text of an answer so that it can be read back from the PDF: each line an element of its own; where something is written from right to left, each word
/// and number, too, since the structure keeps them in their order where the page paints them in another; each tab an element, since nothing of it is painted.
/// </summary>
internal static class MarkedHtml
{
    /// <summary>The lines of an answer.</summary>
    /// <param name="text">The text.</param>
    /// <param name="language">The language of the paper.</param>
    /// <param name="number">The number of the answer, from 1.</param>
    public static string Lines(string text, string language, int number)
    {
        var html = new StringBuilder();
        foreach (var (line, i) in text.Split('\n').Select(static (l, i) => (l, i)))
        {
            // A line that is empty has nothing to be marked.
            html.Append("<p dir=\"auto\" lang=\"").Append(SlotMarks.Line(language, number, i)).Append("\">");
            Append(html, line, language);
            html.Append("</p>");
        }

        return html.ToString();
    }

    private static void Append(StringBuilder html, string line, string language)
    {
        foreach (var (run, i) in line.Split('\t').Select(static (r, i) => (r, i)))
        {
            if (i > 0)
            {
                html.Append("<span role=\"note\" lang=\"").Append(SlotMarks.Tab(language)).Append("\">    </span>");
            }

            var pieces = Pieces(run);
            if (pieces.Exists(static p => p.Of == Direction.Leftwards))
            {
                pieces.ForEach(p => html.Append("<span>").Append(WebUtility.HtmlEncode(p.Text)).Append("</span>"));
            }
            else
            {
                html.Append(WebUtility.HtmlEncode(run));
            }
        }
    }

    private static List<(Direction Of, string Text)> Pieces(string run)
    {
        var pieces = new List<(Direction Of, string Text)>();
        foreach (var rune in run.EnumerateRunes())
        {
            // What is set upon a letter stays with it.
            var of = pieces.Count > 0 && StaysWithTheLast(rune) ? pieces[^1].Of : DirectionOf(rune);
            if (pieces.Count > 0 && pieces[^1].Of == of)
            {
                pieces[^1] = (of, pieces[^1].Text + rune);
            }
            else
            {
                pieces.Add((of, rune.ToString()));
            }
        }

        return pieces;
    }

    private static bool StaysWithTheLast(Rune rune) =>
        Rune.GetUnicodeCategory(rune)
            is UnicodeCategory.NonSpacingMark
                or UnicodeCategory.SpacingCombiningMark
                or UnicodeCategory.EnclosingMark;

    private static Direction DirectionOf(Rune rune) =>
        Rune.IsWhiteSpace(rune) || Rune.GetUnicodeCategory(rune) == UnicodeCategory.Format ? Direction.Blank
        : Rune.IsDigit(rune) ? Direction.Digits
        : IsLeftwards(rune.Value) ? Direction.Leftwards
        : Direction.Rightwards;

    // Bidi_Class R and AL by their blocks (DerivedBidiClass.txt of the Unicode Character Database, the defaults of what is not assigned).
    private static bool IsLeftwards(int value) =>
        value
            is (>= 0x590 and <= 0x8FF)
                or (>= 0xFB1D and <= 0xFDFF)
                or (>= 0xFE70 and <= 0xFEFE)
                or (>= 0x10800 and <= 0x10FFF)
                or (>= 0x1E800 and <= 0x1EFFF);

    private enum Direction
    {
        Rightwards,
        Leftwards,
        Digits,
        Blank,
    }
}
