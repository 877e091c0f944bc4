using System.Globalization;

namespace Sexton.Core.Register;

/// <summary>Lengths in user-perceived characters: extended grapheme clusters of Unicode Standard Annex #29.</summary>
public static class Graphemes
{
    /// <summary>The first character that can join the one before it.</summary>
    internal const char FirstMark = '\u0300';

    /// <summary>The number of user-perceived characters of a text.</summary>
    public static int Count(ReadOnlySpan<char> text)
    {
        var count = 0;
        while (!text.IsEmpty)
        {
            // Two characters below the combining marks never join, but for the end of a line in two characters: nothing to look up.
            var plain = text[0] is < FirstMark and not '\r' && (text.Length == 1 || text[1] < FirstMark);
            text = text[(plain ? 1 : StringInfo.GetNextTextElementLength(text))..];
            count++;
        }

        return count;
    }

    /// <summary>Whether a text has at most so many characters. A text whose UTF-16 length fits is not counted: a cluster is never shorter.</summary>
    public static bool FitIn(string text, int longest) => text.Length <= longest || Count(text) <= longest;

    /// <summary>The beginning of a text, of so many characters.</summary>
    public static string First(string text, int count)
    {
        var end = 0;
        for (var n = 0; n < count && end < text.Length; n++)
        {
            end += StringInfo.GetNextTextElementLength(text, end);
        }

        return text[..end];
    }
}
