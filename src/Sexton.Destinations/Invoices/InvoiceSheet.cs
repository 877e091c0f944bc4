using Sexton.Core.Catalogue;
using Sexton.Core.Invoicing;
using Sexton.Core.Pricing;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Destinations.Invoices;

/// <summary>What stands on the sheet of an invoice, as it is written for people.</summary>
/// <param name="document">What it says.</param>
/// <param name="order">What goes.</param>
/// <param name="language">The language.</param>
/// <param name="buyerNames">The keys of the fields that say who bought, and where they are.</param>
/// <param name="buyerNumbers">The keys of the fields by which the buyer is found.</param>
internal sealed class InvoiceSheet(InvoiceDocument document, SentOrder order, string language, string[] buyerNames, string[] buyerNumbers)
{
    private const string Group = "invoice.";

    private readonly PriceWords _words = new(document.Currency, language, order.To.Settings.Shop);

    /// <summary>What is said on it in its language, by name.</summary>
    public IReadOnlyDictionary<string, string> Words { get; } =
        order
            .To.Settings.Shop.In(language, Group)
            .ToDictionary(static w => w.Key[Group.Length..], static w => w.Value, StringComparer.Ordinal);

    /// <summary>The keys of the fields that say who bought, and where they are.</summary>
    public string[] BuyerNames => buyerNames;

    /// <summary>The keys of the fields by which the buyer is found.</summary>
    public string[] BuyerNumbers => buyerNumbers;

    /// <summary>All fields of the buyer.</summary>
    public string[] Buyer => [.. buyerNames, .. buyerNumbers];

    /// <summary>The day on which it is issued.</summary>
    public string IssuedOn => LocalText.Day(document.IssuedOn, language);

    /// <summary>The number of the order.</summary>
    public string Order => document.Order;

    /// <summary>The invoice that it takes back, with its day; "" for an invoice.</summary>
    public string Credits => document.Credits is { } credited ? $"{credited.Number}, {LocalText.Day(credited.IssuedOn, language)}" : "";

    /// <summary>How it is paid; a credit note is not.</summary>
    public string Terms => document.Kind == InvoiceDocumentKind.Invoice ? document.Terms : "";

    /// <summary>The tax number of the shop; "" for none.</summary>
    public string SellerTaxNumber => document.IsOutside ? "" : document.Seller.TaxNumber;

    /// <summary>Where the shop is, on one line, its country by name.</summary>
    public string SellerAddress
    {
        get
        {
            var address = document.Seller.Address;
            var country = Regions.NamesOf(address.Country).In(language);
            return string.Join(
                ", ",
                new[] { document.Seller.Name, address.Street, $"{address.Postcode} {address.Town}".Trim(), country }.Where(static p =>
                    p.Length > 0
                )
            );
        }
    }

    /// <summary>The rows of the order that belong to no line.</summary>
    public object[] OrderRows => RowsOf(null);

    /// <summary>Whether the rows include tax.</summary>
    public bool Included => order.Content.Prices.IncludeTax;

    /// <summary>What the sum of the rows is called: of an invoice without tax none is included.</summary>
    public string TotalName => document.Amounts.TaxMinor == 0 ? Words["together"] : Words["together_with_tax"];

    /// <summary>What all of it comes to.</summary>
    public string Total => _words.Amount(document.Amounts.PayableMinor);

    /// <summary>The tax by rate.</summary>
    public object[] Taxes =>
        [
            .. document.Amounts.Taxes.Select(tax => new
            {
                rate = tax.Rate.Category is TaxCategory.Standard or TaxCategory.Zero ? _words.Share(tax.Rate.Ppm) : Words["untaxed"],
                net = _words.Amount(tax.NetMinor),
                tax = _words.Amount(tax.TaxMinor),
                gross = _words.Amount(tax.NetMinor + tax.TaxMinor),
            }),
        ];

    /// <summary>All without tax.</summary>
    public string Net => _words.Amount(document.Amounts.NetMinor);

    /// <summary>The tax.</summary>
    public string Tax => _words.Amount(document.Amounts.TaxMinor);

    /// <summary>All with tax.</summary>
    public string Gross => _words.Amount(document.Amounts.GrossMinor);

    /// <summary>What is rounded; "" for nothing.</summary>
    public string Rounding => document.Amounts.RoundingMinor == 0 ? "" : _words.Amount(document.Amounts.RoundingMinor);

    /// <summary>Why no tax is charged, a sentence each.</summary>
    public string[] Reasons =>
        [.. document.Amounts.Taxes.Select(document.ReasonOf).Where(static r => r.Length > 0).Distinct(StringComparer.Ordinal)];

    /// <summary>The rows of a line, or those of the order for null.</summary>
    public object[] RowsOf(string? lineId) =>
        [
            .. order
                .PriceRows.Where(row => row.LineId == lineId)
                .Select(row => new
                {
                    quantity = row.Quantity,
                    label = row.UnitId is { } unit
                        ? $"{row.Label}, {order.Content.Lines[order.LineNumbers[row.LineId!] - 1].NameOf(unit, language)}"
                        : row.Label,
                    extra = row.Kind != PriceRowKind.Goods,
                    tax = row.Tax.Category is TaxCategory.Standard or TaxCategory.Zero ? _words.Share(row.TaxPpm) : "–",
                    each = row.UnitMinor * row.Quantity == row.SumMinor && row.Quantity > 1 ? _words.Amount(row.UnitMinor) : "",
                    sum = _words.Amount(row.SumMinor),
                }),
        ];
}
