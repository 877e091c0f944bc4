using System.Globalization;

namespace Sexton.Core.Catalogue.Brought;

/// <summary>Numbers in the cells of a table: digits with a decimal point or comma, and nothing between them.</summary>
internal static class DecimalText
{
    private const int MostDigits = 15;

    /// <summary>Reads a number.</summary>
    public static bool TryRead(string cell, out decimal number)
    {
        number = 0;
        var plain = cell.Replace(',', '.');
        return plain.Length <= MostDigits
            && plain is not ['.', ..] and not [.., '.']
            && decimal.TryParse(
                plain,
                NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
                CultureInfo.InvariantCulture,
                out number
            );
    }

    /// <summary>Reads a number with at most some decimals, as a whole number of the last of them; null where it is none, or has more decimals.</summary>
    /// <param name="cell">The cell.</param>
    /// <param name="decimals">How many decimals it has at most.</param>
    /// <example><code>DecimalText.Shifted("12,5", 2) // 1250</code></example>
    public static long? Shifted(string cell, int decimals)
    {
        var point = cell.AsSpan().IndexOfAny('.', ',');
        var has = point < 0 ? 0 : cell.Length - 1 - point;
        return has <= decimals && TryRead(cell, out var number) ? (long)(number * Power(decimals)) : null;
    }

    /// <summary>Writes a whole number of the last of some decimals.</summary>
    /// <example><code>DecimalText.Of(1250, 2) // "12.50"</code></example>
    public static string Of(long shifted, int decimals) =>
        (shifted / Power(decimals)).ToString("F" + decimals.ToString(CultureInfo.InvariantCulture), CultureInfo.InvariantCulture);

    /// <summary>Writes a number as it is.</summary>
    public static string Of(decimal number) => number.ToString(CultureInfo.InvariantCulture);

    private static decimal Power(int decimals) => decimals == 0 ? 1 : 10 * Power(decimals - 1);
}
