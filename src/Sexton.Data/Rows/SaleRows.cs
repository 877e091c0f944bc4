using Sexton.Core.Catalogue;
using Sexton.Core.Facts;
using Sexton.Core.Pricing;
using Sexton.Core.Register;
using Sexton.Core.Types;

namespace Sexton.Data.Rows;

/// <summary>A shopper's cart.</summary>
public sealed class CartRow
{
    /// <summary>A random id; whoever knows it has the cart.</summary>
    public required Guid Id { get; init; }

    /// <summary>The cart, as JSON; emptied once it was ordered.</summary>
    public required string Content { get; set; }

    /// <summary>Counts changes, so that two tabs do not overwrite each other unseen.</summary>
    public required int Revision { get; set; }

    /// <summary>The step that the shopper reached.</summary>
    public required string StepReached { get; set; }

    /// <summary>The projection of the cart page as last served, as the bytes that were served; null before it was.</summary>
    public byte[]? Shown { get; set; }

    /// <summary>What <see cref="Shown"/> should carry, as JSON.</summary>
    public string? ShownProjection { get; set; }

    /// <summary>When <see cref="Shown"/> was served.</summary>
    public DateTimeOffset? ShownAt { get; set; }

    /// <summary>The order that it became, or null.</summary>
    public Guid? OrderId { get; set; }

    /// <summary>When it was last changed.</summary>
    public required DateTimeOffset ChangedAt { get; set; }
}

/// <summary>Where an attempt stands.</summary>
public enum AttemptState
{
    /// <summary>Committed; the payment provider is asked or about to be.</summary>
    Paying,

    /// <summary>It became an order.</summary>
    Placed,

    /// <summary>The provider declined.</summary>
    Declined,

    /// <summary>It ran out before the money was taken, or the money was given back.</summary>
    Expired,
}

/// <summary>One try at turning a cart into an order.</summary>
public sealed class AttemptRow
{
    /// <summary>The id; also the key under which the provider is asked, and the id of the order.</summary>
    public required Guid Id { get; init; }

    /// <summary>The cart.</summary>
    public required Guid CartId { get; init; }

    /// <summary>The key that the shopper's page made for this try.</summary>
    public required string ClientKey { get; init; }

    /// <summary>SHA-256 of what was sent with it; another body under the same key is refused.</summary>
    public required byte[] BodyHash { get; init; }

    /// <summary>The evaluation that was frozen, as JSON; emptied once it is placed or ended.</summary>
    public required string Content { get; set; }

    /// <summary>The total, in minor units.</summary>
    public required long TotalMinor { get; init; }

    /// <summary>The account of the shopper, or null without one.</summary>
    public Guid? ShopperId { get; init; }

    /// <summary>The one-time token that stands for the card; "" where nothing is charged, and once it is placed or ended.</summary>
    public required string PaymentToken { get; set; }

    /// <summary>Where it stands.</summary>
    public required AttemptState State { get; set; }

    /// <summary>The provider's number for the charge, once known.</summary>
    public string? Charge { get; set; }

    /// <summary>When it was made.</summary>
    public required DateTimeOffset CreatedAt { get; init; }

    /// <summary>When it runs out.</summary>
    public required DateTimeOffset ExpiresAt { get; init; }

    /// <summary>Until when somebody is at it; then another may take it up.</summary>
    public required DateTimeOffset LeaseUntil { get; set; }
}

/// <summary>An order.</summary>
public sealed class OrderRow
{
    /// <summary>The id: that of its attempt.</summary>
    public required Guid Id { get; init; }

    /// <summary>The number that people use.</summary>
    public long Number { get; init; }

    /// <summary>The version of the register under which it was placed.</summary>
    public required int Version { get; init; }

    /// <summary>The language in which the shopper was asked.</summary>
    public required string Language { get; init; }

    /// <summary>Where it came from: "shop".</summary>
    public required string Channel { get; init; }

    /// <summary>Who placed it: "shopper".</summary>
    public required string Actor { get; init; }

    /// <summary>When.</summary>
    public required DateTimeOffset PlacedAt { get; init; }

    /// <summary>The currency.</summary>
    public required string Currency { get; init; }

    /// <summary>The total, in minor units.</summary>
    public required long TotalMinor { get; init; }

    /// <summary>Whether the rows of its prices include tax; else it comes on top of them.</summary>
    public required bool PricesIncludeTax { get; init; }

    /// <summary>The code of the coupon that was given; "" for none.</summary>
    public required string Coupon { get; init; }

    /// <summary>The provider's number for the charge.</summary>
    public required string Charge { get; init; }

    /// <summary>The account of the shopper, or null without one.</summary>
    public Guid? ShopperId { get; init; }

    /// <summary>The facts that conditions read and what was not asked, as JSON.</summary>
    public required string Facts { get; init; }

    /// <summary>Its lines.</summary>
    public IList<OrderLineRow> Lines { get; } = [];

    /// <summary>Its answers.</summary>
    public IList<AnswerRow> Answers { get; } = [];

    /// <summary>Its prices.</summary>
    public IList<OrderPriceRow> Prices { get; } = [];
}

/// <summary>A row of the prices of an order. Amounts are minor units.</summary>
public sealed class OrderPriceRow
{
    /// <summary>The order.</summary>
    public required Guid OrderId { get; init; }

    /// <summary>Its place among the prices of the order, from 0.</summary>
    public required int Position { get; init; }

    /// <summary>The line, or null for what is charged once per order.</summary>
    public required string? LineId { get; init; }

    /// <summary>The unit within its line, or null.</summary>
    public required string? UnitId { get; init; }

    /// <summary>What it is for.</summary>
    public required PriceRowKind Kind { get; init; }

    /// <summary>The key of the field whose answer it is about, or null.</summary>
    public required string? Field { get; init; }

    /// <summary>What the shopper read.</summary>
    public required string Label { get; init; }

    /// <summary>How many.</summary>
    public required int Quantity { get; init; }

    /// <summary>The amount for one.</summary>
    public required long UnitMinor { get; init; }

    /// <summary>The sum of the row.</summary>
    public required long SumMinor { get; init; }

    /// <summary>The tax rate, in parts per million.</summary>
    public required int TaxPpm { get; init; }

    /// <summary>Its share of the tax at this rate.</summary>
    public required long TaxMinor { get; init; }

    /// <summary>The key of the choice that it prices, or whose component it is; null for the answer as a whole.</summary>
    public required string? Choice { get; init; }

    /// <summary>The item code of a component; null for any other row.</summary>
    public required string? Item { get; init; }
}

/// <summary>A line of an order.</summary>
public sealed class OrderLineRow
{
    /// <summary>The order.</summary>
    public required Guid OrderId { get; init; }

    /// <summary>The id that the line had in the cart.</summary>
    public required string LineId { get; init; }

    /// <summary>Its place, from 0.</summary>
    public required int Position { get; init; }

    /// <summary>The external code under which it was sold.</summary>
    public required string ProductCode { get; init; }

    /// <summary>The name of the product as it was.</summary>
    public required string ProductName { get; init; }

    /// <summary>How many.</summary>
    public required int Quantity { get; init; }

    /// <summary>Its item code: that of the goods, with what its answers contribute.</summary>
    public required string ItemCode { get; init; }

    /// <summary>The facts that conditions read, its units and their name, as JSON.</summary>
    public required string Facts { get; init; }
}

/// <summary>An answer of an order.</summary>
public sealed class AnswerRow
{
    /// <summary>The order.</summary>
    public required Guid OrderId { get; init; }

    /// <summary>Its place among the answers of the order, from 0.</summary>
    public required int Position { get; init; }

    /// <summary>The line, or null for an answer of the order.</summary>
    public required string? LineId { get; init; }

    /// <summary>The unit within its line, or null for an answer of the line or order.</summary>
    public required string? UnitId { get; init; }

    /// <summary>The key of the field.</summary>
    public required string Field { get; init; }

    /// <summary>The question as the shopper read it.</summary>
    public required string Label { get; init; }

    /// <summary>The key of the step.</summary>
    public required string Step { get; init; }

    /// <summary>The canonical value, as JSON; null when left empty.</summary>
    public required string? Value { get; init; }

    /// <summary>The text as people read it; "" when left empty.</summary>
    public required string Text { get; init; }

    /// <summary>The text as systems get it, where that differs; null for the same.</summary>
    public required string? SystemText { get; init; }
}
