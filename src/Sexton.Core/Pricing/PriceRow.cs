namespace Sexton.Core.Pricing;

/// <summary>One row of the prices of a cart or order; the rows sum exactly to the total. Amounts are integer minor units (ISO 4217).</summary>
/// <param name="LineId">The line that it belongs to.</param>
/// <param name="ProductCode">The external code under which it is sold: that of the variant where there is one.</param>
/// <param name="Label">What it is for.</param>
/// <param name="Quantity">How many.</param>
/// <param name="UnitMinor">The amount for one.</param>
/// <param name="SumMinor">The sum of the row.</param>
public readonly record struct PriceRow(string LineId, string ProductCode, string Label, int Quantity, long UnitMinor, long SumMinor);
