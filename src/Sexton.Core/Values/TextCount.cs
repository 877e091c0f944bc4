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

    /// <summary>The number of words as the trade counts them: runs between white space with a letter or digit, but a telephone number or a date is one however it is
    /// spaced (common practice where texts are sold by the word).</summary>
    /// <param name="text">The text.</param>
    /// <param name="home">The country whose telephone numbers are known without its code (ISO 3166-1 alpha-2); "" for none.</param>
    public static int Words(string text, string home)
    {
        var (count, from) = (0, 0);
        foreach (var whole in SpacedWords.In(text, home))
        {
            // What is written onto it, such as a comma, is part of it, were it another date; what stands before and after is counted by itself.
            count += whole.Start.Value < from ? 0 : Runs(text.AsSpan(from..whole.Start)) + 1;
            from = Math.Max(from, whole.End.Value);
            while (from < text.Length && !char.IsWhiteSpace(text[from]))
            {
                from++;
            }
        }

        return count + Runs(text.AsSpan(from..));
    }

    /// <summary>The number of runs between white space with a letter or digit.</summary>
    public static int Runs(ReadOnlySpan<char> text)
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
