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
        if (!IsText(raw))
        {
            return false;
        }

        var lines = raw.Contains('\r', StringComparison.Ordinal)
            ? raw.Replace("\r\n", "\n", StringComparison.Ordinal).Replace('\r', '\n')
            : raw;
        text = lines.Normalize(NormalizationForm.FormC).Trim();
        return true;
    }

    private static bool IsText(string raw)
    {
        foreach (var rune in raw.AsSpan().EnumerateRunes())
        {
            // EnumerateRunes gives U+FFFD for an unpaired surrogate; a real U+FFFD is refused too, since it says that something was lost before.
            if (rune == Rune.ReplacementChar
                || (Rune.IsControl(rune) && rune.Value is not ('\t' or '\n' or '\r'))
                || (rune.Value & 0xFFFE) == 0xFFFE
                || rune.Value is >= 0xFDD0 and <= 0xFDEF)
            {
                return false;
            }
        }

        return true;
    }
}
