using System.Runtime.InteropServices;

namespace Sexton.Core.Catalogue;

/// <summary>Why what is sold is taxed as it is: the categories of EN 16931, by their codes in UNCL 5305.</summary>
public enum TaxCategory
{
    /// <summary>Taxed (S).</summary>
    Standard,

    /// <summary>Taxed, at a rate of nothing (Z).</summary>
    Zero,

    /// <summary>Not taxed, since a law exempts it (E).</summary>
    Exempt,

    /// <summary>No sale in the sense of the tax, such as a gift (O).</summary>
    Outside,

    /// <summary>The buyer owes the tax: reverse charge (AE).</summary>
    ReverseCharge,
}

/// <summary>A rate of tax, and why it is that.</summary>
/// <param name="Ppm">The rate, in parts per million; above 0 only what is <see cref="TaxCategory.Standard"/>.</param>
/// <param name="Category">Why.</param>
[StructLayout(LayoutKind.Auto)]
public readonly record struct TaxRate(int Ppm, TaxCategory Category)
{
    /// <summary>The rate of what the buyer owes the tax of.</summary>
    public static readonly TaxRate ReverseCharge = new(0, TaxCategory.ReverseCharge);

    /// <summary>The categories that say why a rate is nothing.</summary>
    public static IEnumerable<TaxCategory> Untaxed => [TaxCategory.Zero, TaxCategory.Exempt, TaxCategory.Outside];

    /// <summary>A rate.</summary>
    /// <param name="ppm">The rate, in parts per million.</param>
    /// <param name="untaxedAs">Why it is nothing, where it is; one of <see cref="Untaxed"/>.</param>
    public static TaxRate Of(int ppm, TaxCategory untaxedAs = TaxCategory.Zero) => new(ppm, ppm > 0 ? TaxCategory.Standard : untaxedAs);

    /// <summary>Whether it stands before another one: the lowest first.</summary>
    internal bool IsBefore(TaxRate other) => Ppm < other.Ppm || (Ppm == other.Ppm && Category < other.Category);
}
