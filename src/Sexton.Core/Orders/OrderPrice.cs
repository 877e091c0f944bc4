using System.Text.Json.Serialization;
using Sexton.Core.Asking;
using Sexton.Core.Catalogue;
using Sexton.Core.Pricing;
using Sexton.Core.Sentences;

namespace Sexton.Core.Orders;

/// <summary>One row of the prices of an order, as it was. Amounts are integer minor units (ISO 4217).</summary>
/// <param name="LineId">The line, or null for what is charged once per order.</param>
/// <param name="UnitId">The unit within its line, or null.</param>
/// <param name="Kind">What it is for.</param>
/// <param name="Field">The key of the field whose answer it is about, or null.</param>
/// <param name="Label">What the shopper read.</param>
/// <param name="Quantity">How many.</param>
/// <param name="UnitMinor">The amount for one.</param>
/// <param name="SumMinor">The sum of the row.</param>
/// <param name="TaxPpm">The tax rate, in parts per million.</param>
/// <param name="TaxMinor">Its share of the tax at this rate.</param>
public sealed record OrderPrice(
    string? LineId,
    string? UnitId,
    PriceRowKind Kind,
    string? Field,
    string Label,
    int Quantity,
    long UnitMinor,
    long SumMinor,
    int TaxPpm,
    long TaxMinor
)
{
    /// <summary>Why the rate is that.</summary>
    public TaxCategory TaxCategory { get; init; } = TaxRate.Of(TaxPpm).Category;

    /// <summary>The tax rate.</summary>
    [JsonIgnore]
    public TaxRate Tax => new(TaxPpm, TaxCategory);

    /// <summary>The key of the choice that it prices, or whose component it is; null for the answer as a whole.</summary>
    public string? Choice { get; init; }

    /// <summary>The item code of a component; null for any other row.</summary>
    public string? Item { get; init; }

    /// <summary>Of a cart the question whose answer is the price of these goods and is not given yet; null otherwise, and always for an order.</summary>
    [JsonIgnore]
    public string? OpenBy { get; init; }

    /// <summary>The least that one of them can come to by that answer, in minor units; null where it is not known.</summary>
    [JsonIgnore]
    public long? FromMinor { get; init; }

    /// <summary>The row with others added to it.</summary>
    internal OrderPrice With(IEnumerable<OrderPrice> others)
    {
        var (sum, tax) = others.Aggregate(
            (SumMinor, TaxMinor),
            static (all, other) => (all.SumMinor + other.SumMinor, all.TaxMinor + other.TaxMinor)
        );
        return this with { SumMinor = sum, TaxMinor = tax, UnitMinor = sum % Quantity == 0 ? sum / Quantity : 0 };
    }

    /// <summary>A row of an evaluation, in a language.</summary>
    public static OrderPrice Of(PriceRow row, Wording wording, string language) =>
        new(
            row.LineId,
            row.UnitId,
            row.Kind,
            row.Field?.Key,
            row.LabelIn(wording, language),
            row.Quantity,
            row.UnitMinor,
            row.SumMinor,
            row.TaxPpm,
            row.TaxMinor
        )
        {
            TaxCategory = row.Tax.Category,
            Choice = row.Choice,
            OpenBy = row.OpenBy?.Label.In(language),
            FromMinor = row.FromMinor,
            Item = row.Kind == PriceRowKind.Component ? row.Goods.Code : null,
        };
}

/// <summary>What a cart or an order comes to, row by row, as it is shown to people.</summary>
/// <param name="Rows">The rows.</param>
/// <param name="IncludeTax">Whether the rows include tax; else it comes on top.</param>
/// <param name="TotalMinor">The total with tax, in minor units: the sum of the rows, and of their taxes where these come on top.</param>
/// <param name="Currency">The currency (ISO 4217).</param>
public sealed record PriceList(IReadOnlyList<OrderPrice> Rows, bool IncludeTax, long TotalMinor, string Currency)
{
    /// <summary>That of an evaluation.</summary>
    public static PriceList Of(Evaluation evaluation) =>
        new(
            [.. evaluation.Rows.Select(r => OrderPrice.Of(r, evaluation.Plan.Wording, evaluation.Cart.Language))],
            evaluation.PricesIncludeTax,
            evaluation.TotalMinor,
            evaluation.Currency
        );

    /// <summary>The tax by rate, the lowest first; what is not taxed is left out.</summary>
    public IEnumerable<TaxSum> Taxes =>
        Rows.Where(static r => r.TaxPpm > 0)
            .GroupBy(static r => r.Tax)
            .OrderBy(static g => g.Key.Ppm)
            .Select(static g => new TaxSum(g.Key, g.Sum(static r => r.SumMinor), g.Sum(static r => r.TaxMinor)));

    /// <summary>Whether the buyer owes the tax of anything in it (reverse charge).</summary>
    public bool BuyerOwesTax => Rows.Any(static r => r.TaxCategory == TaxCategory.ReverseCharge);

    /// <summary>The row of the goods of a line.</summary>
    public OrderPrice GoodsOf(string lineId) => Rows.First(r => r.Kind == PriceRowKind.Goods && r.LineId == lineId);

    /// <summary>What comes on top of the goods of a line, or of all lines for null, in the order in which it was priced.</summary>
    public IEnumerable<OrderPrice> ExtrasOf(string? lineId) => Rows.Where(r => r.Kind != PriceRowKind.Goods && r.LineId == lineId);

    /// <summary>Whether anything in it has no price yet.</summary>
    public bool IsOpen => Rows.Any(static r => r.OpenBy is not null);

    /// <summary>What a line comes to with all that its answers add, in minor units.</summary>
    public long SumOf(string lineId) => Rows.Where(r => r.LineId == lineId).Sum(static r => r.SumMinor);
}
