using Sexton.Core.Orders;
using Sexton.Core.Plan;
using Sexton.Core.Pricing;
using Sexton.Core.Projections;
using Sexton.Core.Sentences;

namespace Sexton.Server.Shop;

/// <summary>What a cart or an order comes to, row by row, with texts for people.</summary>
/// <param name="Rows">The rows.</param>
/// <param name="Lines">What each line comes to with all that its answers add.</param>
/// <param name="Taxes">The tax by rate.</param>
/// <param name="IncludeTax">Whether the rows include tax; else it comes on top.</param>
/// <param name="TotalMinor">The total with tax, in minor units.</param>
/// <param name="Total">The total as text.</param>
/// <param name="Currency">The currency (ISO 4217).</param>
/// <param name="IsOpen">Whether something in it has no price yet, since an answer is yet to say it: the total is what is known so far.</param>
/// <param name="BuyerOwesTax">Whether the buyer owes the tax, and none is charged (reverse charge).</param>
internal sealed record PricesView(
    IReadOnlyList<PriceRowView> Rows,
    IReadOnlyList<LineSumView> Lines,
    IReadOnlyList<TaxView> Taxes,
    bool IncludeTax,
    long TotalMinor,
    string Total,
    string Currency,
    bool IsOpen,
    bool BuyerOwesTax
)
{
    /// <param name="order">The order.</param>
    /// <param name="projection">What the destination gets of its answers.</param>
    /// <param name="register">The current register, which says what is shown where.</param>
    /// <param name="shownAt">The key of the destination.</param>
    public static PricesView Of(OrderContent order, Projection projection, RegisterPlan register, string shownAt) =>
        Of(
            order.Prices with
            {
                Rows = order.Prices.RowsAt(register, shownAt, order, projection),
            },
            order.Prices.RowsAt(register, shownAt, order, projection),
            register.Wording,
            order.Language
        );

    public static PricesView Of(PriceList prices, RegisterPlan register, string shownAt, string language) =>
        Of(prices, prices.RowsAt(register, shownAt), register.Wording, language);

    private static PricesView Of(PriceList prices, IReadOnlyList<OrderPrice> rows, Wording wording, string language)
    {
        var words = new PriceWords(prices.Currency, language, wording);
        return new(
            [.. rows.Select(r => PriceRowView.Of(r, words))],
            [
                .. prices
                    .Rows.Select(static r => r.LineId)
                    .OfType<string>()
                    .Distinct(StringComparer.Ordinal)
                    .Select(id => new LineSumView(id, SumOf(prices, id, words))),
            ],
            [.. prices.Taxes.Select(t => new TaxView(words.Share(t.RatePpm), words.Amount(t.TaxMinor)))],
            prices.IncludeTax,
            prices.TotalMinor,
            words.Amount(prices.TotalMinor),
            prices.Currency,
            prices.IsOpen,
            prices.BuyerOwesTax
        );
    }

    private static string SumOf(PriceList prices, string line, PriceWords words) =>
        prices.GoodsOf(line) is { OpenBy: { } question, FromMinor: var least }
            ? words.Open(least, question)
            : words.Amount(prices.SumOf(line));
}

/// <summary>A row, with its texts.</summary>
/// <param name="LineId">The line, or null for what is charged once per order.</param>
/// <param name="UnitId">The unit within its line, or null.</param>
/// <param name="Kind">What it is for.</param>
/// <param name="Field">The key of the field whose answer it is about, or null.</param>
/// <param name="Label">What it is called.</param>
/// <param name="Quantity">How many.</param>
/// <param name="Unit">The amount for one, or what stands for it while it is open; "" where the sum does not share out evenly.</param>
/// <param name="SumMinor">The sum, in minor units.</param>
/// <param name="Sum">The sum as text.</param>
/// <param name="Tax">The tax rate as text, or why nothing is taxed.</param>
/// <param name="IsOpen">Whether it has no price yet.</param>
internal sealed record PriceRowView(
    string? LineId,
    string? UnitId,
    PriceRowKind Kind,
    string? Field,
    string Label,
    int Quantity,
    string Unit,
    long SumMinor,
    string Sum,
    string Tax,
    bool IsOpen
)
{
    public static PriceRowView Of(OrderPrice row, PriceWords words) =>
        new(
            row.LineId,
            row.UnitId,
            row.Kind,
            row.Field,
            row.Label,
            row.Quantity,
            row.OpenBy is { } asked ? words.Open(row.FromMinor, asked)
                : row.UnitMinor * row.Quantity == row.SumMinor ? words.Amount(row.UnitMinor)
                : "",
            row.SumMinor,
            row.OpenBy is { } question ? words.Open(row.FromMinor, question) : words.Amount(row.SumMinor),
            words.Rate(row.Tax),
            row.OpenBy is not null
        );
}

/// <summary>What a line comes to.</summary>
internal sealed record LineSumView(string LineId, string Sum);

/// <summary>The tax at a rate, with its texts.</summary>
internal sealed record TaxView(string Rate, string Tax);
