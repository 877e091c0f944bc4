using System.Text;

namespace Sexton.Core.Values;

/// <summary>Counts what texts are priced by. Characters are counted by <see cref="Graphemes"/>.</summary>
public static class TextCount
{
    /// <summary>
    /// The number of letters: user-perceived characters (extended grapheme clusters of Unicode Standard Annex #29) with a letter or digit
    /// in them.
    /// </summary>
    public static int Letters(ReadOnlySpan<char> text)
    {
        var count = 0;
        while (!text.IsEmpty)
        {
            var length = Graphemes.LengthOfFirst(text);
            count += (length == 1 ? char.IsLetterOrDigit(text[0]) : HasLetterOrDigit(text[..length])) ? 1 : 0;
            text = text[length..];
        }

        return count;
    }

    /// <summary>The number of words: runs between white space with a letter or digit (common practice where texts are sold by the word).</summary>
    public static int Words(ReadOnlySpan<char> text)
    {
        var (count, counted) = (0, false);
        foreach (var rune in text.EnumerateRunes())
        {
            if (Rune.IsWhiteSpace(rune))
            {
                counted = false;
            }
            else if (!counted && Rune.IsLetterOrDigit(rune))
            {
                counted = true;
                count++;
            }
        }

        return count;
    }

    private static bool HasLetterOrDigit(ReadOnlySpan<char> text)
    {
        foreach (var rune in text.EnumerateRunes())
        {
            if (Rune.IsLetterOrDigit(rune))
            {
                return true;
            }
        }

        return false;
    }
}
