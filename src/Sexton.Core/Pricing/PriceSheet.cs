using System.Collections.Immutable;

namespace Sexton.Core.Pricing;

/// <summary>The prices of a cart or order: rows that sum exactly to the total, in integer minor units (ISO 4217).</summary>
/// <param name="Rows">The rows.</param>
/// <param name="TotalMinor">The total.</param>
/// <param name="Currency">The currency of all amounts.</param>
public sealed record PriceSheet(ImmutableArray<PriceRow> Rows, long TotalMinor, string Currency);

/// <summary>One row of a price sheet.</summary>
/// <param name="LineId">The line that it belongs to.</param>
/// <param name="ProductCode">The external code of the product.</param>
/// <param name="Label">What it is for.</param>
/// <param name="Quantity">How many.</param>
/// <param name="UnitMinor">The amount for one.</param>
/// <param name="SumMinor">The sum of the row.</param>
public sealed record PriceRow(string LineId, string ProductCode, string Label, int Quantity, long UnitMinor, long SumMinor);
