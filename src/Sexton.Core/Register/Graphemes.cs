using System.Globalization;

namespace Sexton.Core.Register;

/// <summary>Lengths in user-perceived characters: extended grapheme clusters of Unicode Standard Annex #29.</summary>
public static class Graphemes
{
    /// <summary>The number of user-perceived characters of a text.</summary>
    public static int Count(ReadOnlySpan<char> text)
    {
        var count = 0;
        while (!text.IsEmpty)
        {
            text = text[StringInfo.GetNextTextElementLength(text)..];
            count++;
        }

        return count;
    }

    /// <summary>Whether a text has at most so many characters. A text whose UTF-16 length fits is not counted: a cluster is never shorter.</summary>
    public static bool FitIn(string text, int longest) => text.Length <= longest || Count(text) <= longest;
}
