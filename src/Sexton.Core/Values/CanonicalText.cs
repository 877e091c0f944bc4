using System.Text;

namespace Sexton.Core.Values;

/// <summary>The canonical form of a text that a shopper typed: Unicode NFC, ends trimmed, line ends LF.</summary>
public static class CanonicalText
{
    // Default_Ignorable_Code_Point of the Unicode Character Database (DerivedCoreProperties.txt): what is shown as nothing.
    private static readonly (int First, int Last)[] Ignorable =
    [
        (0xAD, 0xAD),
        (0x34F, 0x34F),
        (0x61C, 0x61C),
        (0x115F, 0x1160),
        (0x17B4, 0x17B5),
        (0x180B, 0x180F),
        (0x200B, 0x200F),
        (0x202A, 0x202E),
        (0x2060, 0x206F),
        (0x3164, 0x3164),
        (0xFE00, 0xFE0F),
        (0xFEFF, 0xFEFF),
        (0xFFA0, 0xFFA0),
        (0xFFF0, 0xFFF8),
        (0x1BCA0, 0x1BCA3),
        (0x1D173, 0x1D17A),
        (0xE0000, 0xE0FFF),
    ];

    /// <summary>Whether nothing is to be seen of a text: it has white space only, and characters that are shown as nothing.</summary>
    public static bool IsBlank(string text)
    {
        if (text.Length > 0 && text[0] is > ' ' and < '\u007f')
        {
            return false;
        }

        foreach (var rune in text.AsSpan().EnumerateRunes())
        {
            if (!Rune.IsWhiteSpace(rune) && !IsIgnorable(rune.Value))
            {
                return false;
            }
        }

        return true;
    }

    /// <summary>Whether a text can be kept at all: without U+0000, and without U+FFFD, which says that something was lost before.</summary>
    public static bool CanBeKept(string text) => text.AsSpan().IndexOfAny('\0', '\ufffd') < 0 && !HasHalfCharacter(text);

    /// <summary>Whether a character is shown as nothing, and needs no letter in a font.</summary>
    public static bool IsShownAsNothing(Rune rune) => IsIgnorable(rune.Value);

    private static bool IsIgnorable(int value)
    {
        foreach (var (first, last) in Ignorable)
        {
            if (value <= last)
            {
                return value >= first;
            }
        }

        return false;
    }

    private static bool HasHalfCharacter(string text)
    {
        var first = text.AsSpan().IndexOfAnyInRange('\ud800', '\udfff');
        for (var i = first; i >= 0 && i < text.Length; i++)
        {
            if (char.IsSurrogate(text[i]))
            {
                if (i + 1 == text.Length || !char.IsSurrogatePair(text[i], text[i + 1]))
                {
                    return true;
                }

                i++;
            }
        }

        return false;
    }

    /// <summary>
    /// Brings a text to its canonical form.
    /// </summary>
    /// <param name="raw">The text as received.</param>
    /// <param name="text">The canonical text; "" when false is returned.</param>
    /// <returns>
    /// False when it is not text at all: an unpaired surrogate, a noncharacter, or a control character other than tab and line end.
    /// </returns>
    /// <example><code>CanonicalText.TryMake(" Zoe\u0308 ", out var text) // text is "Zoë"</code></example>
    public static bool TryMake(string raw, out string text)
    {
        text = "";
        if (!IsText(raw, out var inert))
        {
            return false;
        }

        // The separators of lines and paragraphs end a line wherever a text is shown, and some readers of texts know no other end than LF.
        var lines =
            raw.AsSpan().IndexOfAny('\r', '\u2028', '\u2029') >= 0
                ? raw.Replace("\r\n", "\n", StringComparison.Ordinal).Replace('\r', '\n').Replace('\u2028', '\n').Replace('\u2029', '\n')
                : raw;
        text = (inert ? lines : lines.Normalize(NormalizationForm.FormC)).Trim();
        return true;
    }

    // Inert: every character is one that normalization to NFC leaves alone whatever stands beside it, so that it need not be done.
    private static bool IsText(string raw, out bool inert)
    {
        inert = true;
        var rest = raw.AsSpan();
        while (!rest.IsEmpty)
        {
            // Letters of Latin are most of what is typed: text, and inert.
            if (rest[0] is (>= ' ' and < '\u007f') or (>= '\u00a0' and < Graphemes.FirstMark))
            {
                rest = rest[1..];
                continue;
            }

            // An unpaired surrogate reads as U+FFFD; a real U+FFFD is refused too, since it says that something was lost before.
            Rune.DecodeFromUtf16(rest, out var rune, out var length);
            rest = rest[length..];
            var value = rune.Value;
            if (
                rune == Rune.ReplacementChar
                || (Rune.IsControl(rune) && value is not ('\t' or '\n' or '\r'))
                || (value & 0xFFFE) == 0xFFFE
                || value is >= 0xFDD0 and <= 0xFDEF
            )
            {
                return false;
            }

            inert &= IsInert(value);
        }

        return true;
    }

    // What has no canonical decomposition that is not composed again, and composes with nothing before it (Unicode Standard Annex #15):
    // Latin with its accents built in, quotation marks and dashes, the joiner and selector of emoji, emoji.
    private static bool IsInert(int value) =>
        value is < 0x300 or (>= 0x2010 and <= 0x2027) or 0x200D or 0x20AC or 0xFE0F or (>= 0x1F300 and <= 0x1FAFF);
}
