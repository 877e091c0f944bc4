using System.Globalization;

namespace Sexton.Core.Register.Types;

/// <summary>How exact decimal numbers are read, whatever type they belong to.</summary>
internal static class ExactNumber
{
    /// <summary>Reads a number that was entered as one, or as a text with a point or a comma.</summary>
    public static bool TryRead(AnswerValue raw, out decimal number)
    {
        if (raw.Number is { } given)
        {
            number = given;
            return true;
        }

        return TryRead(raw.Text ?? "", out number);
    }

    /// <inheritdoc cref="TryRead(AnswerValue, out decimal)"/>
    public static bool TryRead(string raw, out decimal number)
    {
        // One comma is a decimal comma; separators of thousands are refused, since "1,234" means two things.
        var text = raw.Trim();
        text = text.Count(static c => c is ',' or '.') == 1 ? text.Replace(',', '.') : text.Replace(',', ' ');
        return decimal.TryParse(text, NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out number);
    }

    /// <summary>The canonical answer of a number: without trailing zeros, and the very one that was entered where it is that.</summary>
    public static AnswerValue Canonical(AnswerValue raw, decimal number)
    {
        // Dividing by one with all its zeros takes the trailing zeros away, which JSON would otherwise keep apart.
        var plain = number.Scale == 0 ? number : number / 1.0000000000000000000000000000m;
        return raw.Number is not null && plain.Scale == number.Scale ? raw : AnswerValue.Of(plain);
    }
}
