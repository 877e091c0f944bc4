using System.Text;

namespace Sexton.Core.Register;

/// <summary>The canonical form of a text that a shopper typed: Unicode NFC, ends trimmed, line ends LF.</summary>
public static class CanonicalText
{
    /// <summary>
    /// Brings a text to its canonical form.
    /// </summary>
    /// <param name="raw">The text as received.</param>
    /// <param name="text">The canonical text; "" when false is returned.</param>
    /// <returns>
    /// False when it is not text at all: an unpaired surrogate, a noncharacter, or a control character other than tab and line end.
    /// </returns>
    public static bool TryMake(string raw, out string text)
    {
        text = "";
        if (!IsText(raw, out var inert))
        {
            return false;
        }

        var lines = raw.Contains('\r', StringComparison.Ordinal)
            ? raw.Replace("\r\n", "\n", StringComparison.Ordinal).Replace('\r', '\n')
            : raw;
        text = (inert ? lines : lines.Normalize(NormalizationForm.FormC)).Trim();
        return true;
    }

    // Inert: every character is one that normalization to NFC leaves alone whatever stands beside it, so that it need not be done.
    private static bool IsText(string raw, out bool inert)
    {
        inert = true;
        foreach (var rune in raw.AsSpan().EnumerateRunes())
        {
            var value = rune.Value;
            if (value is >= ' ' and < 0x7F)
            {
                continue;
            }

            // EnumerateRunes gives U+FFFD for an unpaired surrogate; a real U+FFFD is refused too, since it says that something was lost before.
            if (rune == Rune.ReplacementChar
                || (Rune.IsControl(rune) && value is not ('\t' or '\n' or '\r'))
                || (value & 0xFFFE) == 0xFFFE
                || value is >= 0xFDD0 and <= 0xFDEF)
            {
                return false;
            }

            inert &= IsInert(value);
        }

        return true;
    }

    // What has no canonical decomposition that is not composed again, and composes with nothing before it (Unicode Standard Annex #15):
    // Latin with its accents built in, quotation marks and dashes, the joiner and selector of emoji, emoji.
    private static bool IsInert(int value) => value is < 0x300 or (>= 0x2010 and <= 0x2027) or 0x200D or 0x20AC or 0xFE0F or (>= 0x1F300 and <= 0x1FAFF);
}
