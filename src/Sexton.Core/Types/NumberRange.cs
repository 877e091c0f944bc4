using System.Runtime.InteropServices;

namespace Sexton.Core.Types;

/// <summary>Which numbers an answer can be.</summary>
/// <param name="Least">The least.</param>
/// <param name="Most">The greatest.</param>
/// <param name="Step">The distance from one to the next, counted from the least; null for as near as the decimals allow.</param>
/// <param name="Decimals">The most digits after the point.</param>
[StructLayout(LayoutKind.Auto)]
public readonly record struct NumberRange(decimal Least, decimal Most, decimal? Step, int Decimals)
{
    /// <summary>
    /// What every number stays below, and above on the other side of nothing: 15 digits before the point and six after fit every receiver that reads numbers as IEEE
    /// 754 doubles closely enough to print them back.
    /// </summary>
    public const decimal Bound = 1_000_000_000_000_000m;

    /// <summary>The range between limits, either of which may be left open.</summary>
    public static NumberRange Of(decimal? least, decimal? most, decimal? step, int decimals)
    {
        var largest = Bound - new decimal(1, 0, 0, false, (byte)decimals);
        return new(least ?? -largest, most ?? largest, step, decimals);
    }
}
