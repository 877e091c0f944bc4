using Sexton.Core.Pricing;

namespace Sexton.Destinations;

/// <summary>What an order costs, as it is written for people: of the lines that go, and what all of it comes to only where all of them do.</summary>
/// <param name="Rows">The rows.</param>
/// <param name="Taxes">What it has of each tax; empty where not all lines go.</param>
/// <param name="Included">Whether the amounts have tax in them.</param>
/// <param name="Whole">Whether all lines go.</param>
/// <param name="Total">What it comes to.</param>
internal sealed record WrittenPrices(
    IReadOnlyList<WrittenRow> Rows,
    IReadOnlyList<WrittenTax> Taxes,
    bool Included,
    bool Whole,
    string Total
)
{
    /// <summary>Those of an order.</summary>
    /// <param name="order">What goes.</param>
    /// <param name="language">The language.</param>
    public static WrittenPrices Of(SentOrder order, string language)
    {
        var content = order.Content;
        var words = new PriceWords(content.Prices.Currency, language, order.To.Settings.Shop);
        var taxAt = content.Prices.IncludeTax ? "price.including_tax_at" : "price.tax_at";
        var isWhole = order.Lines.Length == content.Lines.Length;
        return new WrittenPrices(
            [
                .. order
                    .PriceRows.Where(row => row.LineId is null || order.Lines.Any(l => l.Id == row.LineId))
                    .Select(row => new WrittenRow(
                        row.Quantity,
                        row.UnitId is { } unit
                            ? $"{row.Label}, {content.Lines[order.LineNumbers[row.LineId!] - 1].NameOf(unit, language)}"
                            : row.Label,
                        row.Kind != PriceRowKind.Goods,
                        words.Amount(row.SumMinor)
                    )),
            ],
            isWhole
                ?
                [
                    .. content.Prices.Taxes.Select(tax => new WrittenTax(
                        order.To.Settings.Shop.Say(taxAt, language, words.Share(tax.RatePpm)),
                        words.Amount(tax.TaxMinor)
                    )),
                ]
                : [],
            content.Prices.IncludeTax,
            isWhole,
            words.Amount(content.Prices.TotalMinor)
        );
    }
}

/// <summary>A row of it.</summary>
/// <param name="Quantity">How many.</param>
/// <param name="Label">What.</param>
/// <param name="Extra">Whether it comes on top of the goods.</param>
/// <param name="Sum">What they cost.</param>
internal sealed record WrittenRow(int Quantity, string Label, bool Extra, string Sum);

/// <summary>What it has of a tax.</summary>
/// <param name="Label">What it is called, with its rate.</param>
/// <param name="Sum">How much.</param>
internal sealed record WrittenTax(string Label, string Sum);
