namespace Sexton.Core.Values;

/// <summary>Rounds fractions of minor units to whole ones: half away from zero.</summary>
public static class Exact
{
    /// <summary>One, in parts per million.</summary>
    public const int Million = 1_000_000;

    /// <summary>A fraction, rounded half away from zero.</summary>
    /// <param name="numerator">The numerator.</param>
    /// <param name="denominator">The denominator; above zero.</param>
    /// <example><code>Exact.Round(-5, 2) // -3: half away from zero</code></example>
    public static long Round(Int128 numerator, Int128 denominator)
    {
        var half = (Int128.Abs(numerator) * 2) + denominator;
        var magnitude = half / (denominator * 2);
        return (long)(numerator < 0 ? -magnitude : magnitude);
    }
}
