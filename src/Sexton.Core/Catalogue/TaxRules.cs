using System.Runtime.InteropServices;
using Sexton.Core.Values;

namespace Sexton.Core.Catalogue;

/// <summary>How an installation treats tax on what it sells.</summary>
/// <param name="StandardPpm">The rate of what has none of its own, in parts per million; from 0 to <see cref="MostPpm"/>.</param>
/// <param name="PricesIncludeTax">Whether all prices include tax; else it comes on top.</param>
public sealed record TaxRules(int StandardPpm, bool PricesIncludeTax)
{
    /// <summary>The greatest rate: the price once more, in parts per million.</summary>
    public const int MostPpm = 1_000_000;

    /// <summary>Why the standard rate is nothing, where it is.</summary>
    public TaxCategory UntaxedAs { get; init; } = TaxCategory.Zero;

    /// <summary>The rate of what has none of its own.</summary>
    public TaxRate Standard => TaxRate.Of(StandardPpm, UntaxedAs);

    /// <summary>No tax.</summary>
    public static readonly TaxRules None = new(0, PricesIncludeTax: true);

    /// <summary>
    /// What amount × rate is divided by to give the tax: of an amount that includes tax 1 + rate, of one without it 1; both, like the rate,
    /// in parts per million.
    /// </summary>
    internal int DenominatorOf(int ratePpm) => PricesIncludeTax ? Exact.Million + ratePpm : Exact.Million;
}

/// <summary>The tax of a cart or order at one rate.</summary>
/// <param name="Rate">The rate.</param>
/// <param name="BaseMinor">The sum of the rows at this rate, as prices are shown.</param>
/// <param name="TaxMinor">The tax on them, rounded once.</param>
[StructLayout(LayoutKind.Auto)]
public readonly record struct TaxSum(TaxRate Rate, long BaseMinor, long TaxMinor)
{
    /// <summary>The rate, in parts per million.</summary>
    public int RatePpm => Rate.Ppm;
}
