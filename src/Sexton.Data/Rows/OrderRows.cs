using Sexton.Core.Catalogue;
using Sexton.Core.Pricing;

namespace Sexton.Data.Rows;

/// <summary>An order: what stays the same whatever is corrected of it.</summary>
public sealed class OrderRow
{
    /// <summary>The id: that of its attempt.</summary>
    public required Guid Id { get; init; }

    /// <summary>The number that people use.</summary>
    public long Number { get; init; }

    /// <summary>The number of the revision that is in force.</summary>
    public required int Revision { get; set; }

    /// <summary>Where it came from: "shop".</summary>
    public required string Channel { get; init; }

    /// <summary>When it was placed.</summary>
    public required DateTimeOffset PlacedAt { get; init; }

    /// <summary>The currency.</summary>
    public required string Currency { get; init; }

    /// <summary>Whether the rows of its prices include tax; else it comes on top of them.</summary>
    public required bool PricesIncludeTax { get; init; }

    /// <summary>The provider's number for the charge.</summary>
    public required string Charge { get; init; }

    /// <summary>The account of the shopper, or null without one.</summary>
    public Guid? ShopperId { get; init; }

    /// <summary>The key of the order, wrapped; null once it was erased.</summary>
    public byte[]? Key { get; set; }

    /// <summary>When it was erased, or null.</summary>
    public DateTimeOffset? ErasedAt { get; set; }
}

/// <summary>An order as it was placed (1) or corrected (2, 3 …): who, when, why, and what it was then.</summary>
public sealed class OrderRevisionRow
{
    /// <summary>Counts up; what belongs to the revision refers to it by this.</summary>
    public long Id { get; init; }

    /// <summary>The order.</summary>
    public required Guid OrderId { get; init; }

    /// <summary>The number, from 1.</summary>
    public required int Revision { get; init; }

    /// <summary>Who made it: "shopper", or the account of staff.</summary>
    public required string Actor { get; init; }

    /// <summary>When.</summary>
    public required DateTimeOffset At { get; init; }

    /// <summary>Why; "" for the first.</summary>
    public required string Reason { get; init; }

    /// <summary>The version of the register under which it was placed.</summary>
    public required int Version { get; init; }

    /// <summary>The language in which the shopper was asked.</summary>
    public required string Language { get; init; }

    /// <summary>The total, in minor units.</summary>
    public required long TotalMinor { get; init; }

    /// <summary>The code of the coupon that was given; "" for none.</summary>
    public required string Coupon { get; init; }

    /// <summary>The facts that conditions read and what was not asked, as JSON, sealed; empty once it was erased.</summary>
    public required byte[] Facts { get; set; }

    /// <summary>By what it is found: its item codes and its answers that are not sensitive, a line each.</summary>
    public string Search { get; set; } = "";
}

/// <summary>An order with the revision that is in force.</summary>
public sealed class OrderHead
{
    /// <summary>The order.</summary>
    public required OrderRow Order { get; init; }

    /// <summary>Its revision.</summary>
    public required OrderRevisionRow Revision { get; init; }
}

/// <summary>A line of a revision.</summary>
public sealed class OrderLineRow
{
    /// <summary>The revision.</summary>
    public required long RevisionId { get; init; }

    /// <summary>The id that the line had in the cart.</summary>
    public required string LineId { get; init; }

    /// <summary>Which of the lines it is, from 0.</summary>
    public required int Position { get; init; }

    /// <summary>The external code under which it was sold.</summary>
    public required string ProductCode { get; init; }

    /// <summary>The name of the product as it was.</summary>
    public required string ProductName { get; init; }

    /// <summary>How many.</summary>
    public required int Quantity { get; init; }

    /// <summary>Its item code: that of the goods, with what its answers contribute.</summary>
    public required string ItemCode { get; init; }

    /// <summary>The facts that conditions read and the name of its units, as JSON.</summary>
    public required string Facts { get; init; }
}

/// <summary>A unit of a line of a revision.</summary>
public sealed class OrderUnitRow
{
    /// <summary>The revision.</summary>
    public required long RevisionId { get; init; }

    /// <summary>The line.</summary>
    public required string LineId { get; init; }

    /// <summary>The id of the unit within its line.</summary>
    public required string UnitId { get; init; }

    /// <summary>Which of the units it is, from 0.</summary>
    public required int Position { get; init; }
}

/// <summary>A row of the prices of a revision. Amounts are minor units.</summary>
public sealed class OrderPriceRow
{
    /// <summary>The revision.</summary>
    public required long RevisionId { get; init; }

    /// <summary>Which of the prices it is, from 0.</summary>
    public required int Position { get; init; }

    /// <summary>The line, or null for what is charged once per order.</summary>
    public required string? LineId { get; init; }

    /// <summary>The unit within its line, or null.</summary>
    public required string? UnitId { get; init; }

    /// <summary>What it is for.</summary>
    public required PriceRowKind Kind { get; init; }

    /// <summary>The key of the field whose answer it is about, or null.</summary>
    public required string? Field { get; init; }

    /// <summary>What the shopper read; "" where it is sealed.</summary>
    public required string Label { get; set; }

    /// <summary>How many.</summary>
    public required int Quantity { get; init; }

    /// <summary>The amount for one.</summary>
    public required long UnitMinor { get; init; }

    /// <summary>The sum of the row.</summary>
    public required long SumMinor { get; init; }

    /// <summary>The tax rate, in parts per million.</summary>
    public required int TaxPpm { get; init; }

    /// <summary>Why the rate is that.</summary>
    public required TaxCategory TaxCategory { get; init; }

    /// <summary>Its share of the tax at this rate.</summary>
    public required long TaxMinor { get; init; }

    /// <summary>The key of the choice that it prices, or whose component it is; null for the answer as a whole, and where it is sealed.</summary>
    public required string? Choice { get; set; }

    /// <summary>The item code of a component; null for any other row.</summary>
    public required string? Item { get; init; }

    /// <summary>Label and choice of a sensitive answer, as JSON, sealed; null where they stand in the clear.</summary>
    public required byte[]? Sealed { get; set; }
}

/// <summary>An answer of a revision, at a slot of its own. What was asked says the version of the register, which never changes.</summary>
public sealed class AnswerRow
{
    /// <summary>The revision.</summary>
    public required long RevisionId { get; init; }

    /// <summary>The line, or "" for an answer of the order.</summary>
    public required string LineId { get; init; }

    /// <summary>The unit within its line, or "" for an answer of the line or order.</summary>
    public required string UnitId { get; init; }

    /// <summary>The key of the field.</summary>
    public required string Field { get; init; }

    /// <summary>Which of the answers of the order it is, from 0.</summary>
    public required short Position { get; init; }

    /// <summary>The canonical value, as JSON; null when left empty, sealed or erased, and where it is the very text.</summary>
    public required string? Value { get; set; }

    /// <summary>The text as people read it; "" when left empty, sealed or erased.</summary>
    public required string Text { get; set; }

    /// <summary>The text as systems get it, where that differs; null for the same.</summary>
    public required string? SystemText { get; set; }

    /// <summary>Value and texts of a sensitive answer, as JSON, sealed; null where they stand in the clear, empty once it was erased.</summary>
    public required byte[]? Sealed { get; set; }

    /// <summary>Whether it says something of a person, so that it goes when the order is erased.</summary>
    public required bool Personal { get; init; }
}

/// <summary>That somebody of the staff looked at a sensitive answer.</summary>
public sealed class LookRow
{
    /// <summary>Counts up.</summary>
    public long Id { get; init; }

    /// <summary>The order.</summary>
    public required Guid OrderId { get; init; }

    /// <summary>The slot of the answer.</summary>
    public required string Slot { get; init; }

    /// <summary>The account that looked.</summary>
    public required string Account { get; init; }

    /// <summary>The name by which others know who it was.</summary>
    public required string Name { get; init; }

    /// <summary>When.</summary>
    public required DateTimeOffset At { get; init; }
}
