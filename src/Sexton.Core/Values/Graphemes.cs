using System.Buffers;
using System.Globalization;
using System.Text;

namespace Sexton.Core.Values;

/// <summary>Lengths in user-perceived characters: extended grapheme clusters of Unicode Standard Annex #29, conjuncts too.</summary>
public static class Graphemes
{
    /// <summary>The first character that can join the one before it.</summary>
    internal const char FirstMark = '\u0300';

    /// <summary>The number of user-perceived characters of a text.</summary>
    /// <example><code>Graphemes.Count("👩‍🌾") // 1</code></example>
    public static int Count(ReadOnlySpan<char> text)
    {
        var count = 0;
        for (; !text.IsEmpty; count++)
        {
            text = text[LengthOfFirst(text)..];
        }

        return count;
    }

    /// <summary>The length of the first user-perceived character of a text that is not empty, in UTF-16 code units.</summary>
    internal static int LengthOfFirst(ReadOnlySpan<char> text)
    {
        // Nothing joins what is plain to what is plain, but for the end of a line in two characters.
        var plain = LengthOfPlain(text);
        if (plain > 0 && text[0] != '\r' && (text.Length == plain || LengthOfPlain(text[plain..]) > 0))
        {
            return plain;
        }

        // .NET knows every rule but GB9c: no break within a conjunct, a consonant and what joins it to the next one. And it knows the marks of Unicode 16: those
        // of 17 join what is before them, too (GB9).
        var length = StringInfo.GetNextTextElementLength(text);
        while (
            length < text.Length
            && text[length] >= ConjunctBreak.First
            && Rune.DecodeFromUtf16(text[length..], out var next, out _) == OperationStatus.Done
            && Joins(text[..length], next)
        )
        {
            length += StringInfo.GetNextTextElementLength(text[length..]);
        }

        return length;
    }

    /// <summary>Whether a text has at most so many characters. A text whose UTF-16 length fits is not counted: a cluster is never shorter.</summary>
    public static bool FitIn(string text, int longest) => text.Length <= longest || Count(text) <= longest;

    /// <summary>The beginning of a text, of so many characters.</summary>
    public static string First(string text, int count)
    {
        var end = 0;
        for (var n = 0; n < count && end < text.Length; n++)
        {
            end += LengthOfFirst(text.AsSpan(end));
        }

        return text[..end];
    }

    // A character below the combining marks, or a pictograph that is no skin tone; 0 for anything else.
    private static int LengthOfPlain(ReadOnlySpan<char> text) =>
        text[0] < FirstMark ? 1
        : char.IsHighSurrogate(text[0])
        && text.Length > 1
        && char.IsLowSurrogate(text[1])
        && char.ConvertToUtf32(text[0], text[1]) is >= 0x1F300 and <= 0x1FAFF and not (>= 0x1F3FB and <= 0x1F3FF)
            ? 2
        : 0;

    private static bool Joins(ReadOnlySpan<char> cluster, Rune next) =>
        ConjunctBreak.IsConsonant(next)
            ? JoinsNext(cluster)
            : (ConjunctBreak.IsExtender(next) || ConjunctBreak.IsLinker(next))
                && Rune.DecodeLastFromUtf16(cluster, out var last, out _) == OperationStatus.Done
                && (
                    last.Value is 0x200C or 0x200D
                    || Rune.GetUnicodeCategory(last)
                        is not (
                            UnicodeCategory.Control
                            or UnicodeCategory.Format
                            or UnicodeCategory.LineSeparator
                            or UnicodeCategory.ParagraphSeparator
                        )
                );

    private static bool JoinsNext(ReadOnlySpan<char> cluster)
    {
        var linked = false;
        while (Rune.DecodeLastFromUtf16(cluster, out var last, out var length) == OperationStatus.Done)
        {
            var links = ConjunctBreak.IsLinker(last);
            if (!links && !ConjunctBreak.IsExtender(last))
            {
                return linked && ConjunctBreak.IsConsonant(last);
            }

            linked |= links;
            cluster = cluster[..^length];
        }

        return false;
    }
}
