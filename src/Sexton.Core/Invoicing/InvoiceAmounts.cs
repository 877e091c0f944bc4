using System.Collections.Immutable;
using System.Text.Json.Serialization;
using Sexton.Core.Catalogue;
using Sexton.Core.Orders;
using Sexton.Core.Pricing;
using Sexton.Core.Values;

namespace Sexton.Core.Invoicing;

/// <summary>
/// What an invoice comes to, without tax and with it, by the rules of EN 16931 (BR-CO-10 to BR-CO-17). Amounts are integer minor units. Where prices include tax, the
/// tax of a rate is reckoned anew of what stands at it without tax; the cent by which that may differ from what was charged is its rounding amount.
/// </summary>
/// <param name="Lines">What was bought, and what answers add.</param>
/// <param name="Adjustments">What is taken off, and what is charged for the whole order.</param>
/// <param name="Taxes">The tax by rate, the lowest first.</param>
/// <param name="PayableMinor">What was charged (BT-115).</param>
public sealed record InvoiceAmounts(
    ImmutableArray<InvoiceLine> Lines,
    ImmutableArray<InvoiceAdjustment> Adjustments,
    ImmutableArray<InvoiceTax> Taxes,
    long PayableMinor
)
{
    /// <summary>The sum of the lines (BT-106, BR-CO-10).</summary>
    [JsonIgnore]
    public long LinesMinor => Lines.Sum(static l => l.NetMinor);

    /// <summary>What is taken off (BT-107, BR-CO-11).</summary>
    [JsonIgnore]
    public long AllowancesMinor => Adjustments.Where(static a => !a.IsCharge).Sum(static a => a.NetMinor);

    /// <summary>What is charged for the whole order (BT-108, BR-CO-12).</summary>
    [JsonIgnore]
    public long ChargesMinor => Adjustments.Where(static a => a.IsCharge).Sum(static a => a.NetMinor);

    /// <summary>All without tax (BT-109, BR-CO-13).</summary>
    [JsonIgnore]
    public long NetMinor => LinesMinor - AllowancesMinor + ChargesMinor;

    /// <summary>The tax (BT-110, BR-CO-14).</summary>
    [JsonIgnore]
    public long TaxMinor => Taxes.Sum(static t => t.TaxMinor);

    /// <summary>All with tax (BT-112, BR-CO-15).</summary>
    [JsonIgnore]
    public long GrossMinor => NetMinor + TaxMinor;

    /// <summary>What makes of it what was charged (BT-114, BR-CO-16); at most a cent for each rate.</summary>
    [JsonIgnore]
    public long RoundingMinor => PayableMinor - GrossMinor;

    /// <summary>Those of an order.</summary>
    /// <param name="order">The order.</param>
    /// <param name="rows">Its prices with the names under which they stand on the invoice.</param>
    public static InvoiceAmounts Of(OrderContent order, IReadOnlyList<OrderPrice> rows)
    {
        var includeTax = order.Prices.IncludeTax;
        var rates = rows.Select(static r => r.Tax).Distinct().ToList();
        // What is outside the tax stands on an invoice alone (BR-O-11 to BR-O-14), or, beside others, as exempt with its own reason.
        var isMixed = rates.Exists(static r => r.Category != TaxCategory.Outside);
        TaxRate RateOf(OrderPrice row) =>
            isMixed && row.Tax.Category == TaxCategory.Outside ? row.Tax with { Category = TaxCategory.Exempt } : row.Tax;
        long NetOf(OrderPrice row) => includeTax ? row.SumMinor - row.TaxMinor : row.SumMinor;

        var lines = ImmutableArray.CreateBuilder<InvoiceLine>();
        var adjustments = ImmutableArray.CreateBuilder<InvoiceAdjustment>();
        foreach (var row in rows)
        {
            var net = NetOf(row);
            if (row.LineId is not null && row.Kind != PriceRowKind.Floor && net >= 0)
            {
                lines.Add(new InvoiceLine(NameOf(order, row), CodeOf(order, row), row.Quantity, net, RateOf(row)));
            }
            else if (net != 0)
            {
                adjustments.Add(new InvoiceAdjustment(NameOf(order, row), net > 0, Math.Abs(net), RateOf(row)));
            }
        }

        return new InvoiceAmounts(
            lines.ToImmutable(),
            adjustments.ToImmutable(),
            [
                .. rows.GroupBy(RateOf)
                    .OrderBy(static g => g.Key.Ppm)
                    .ThenBy(static g => g.Key.Category)
                    .Select(g => Tax(g.Key, g.Sum(NetOf), [.. g.Select(static r => r.Tax.Category).Distinct().Order()])),
            ],
            order.Prices.TotalMinor
        );
    }

    // BR-CO-17.
    private static InvoiceTax Tax(TaxRate rate, long net, ImmutableArray<TaxCategory> because) =>
        new(rate, net, Exact.Round((Int128)net * rate.Ppm, Exact.Million), because);

    private static string NameOf(OrderContent order, OrderPrice row)
    {
        var line = order.Lines.FirstOrDefault(l => l.Id == row.LineId);
        return line is null || row.Kind == PriceRowKind.Goods ? row.Label
            : row.UnitId is null ? $"{line.ProductName}: {row.Label}"
            : $"{line.ProductName}, {line.NameOf(row.UnitId, order.Language)}: {row.Label}";
    }

    private static string? CodeOf(OrderContent order, OrderPrice row) =>
        row.Kind == PriceRowKind.Goods ? order.Lines.First(l => l.Id == row.LineId).ItemCode : row.Item;
}

/// <summary>A line of an invoice (BG-25).</summary>
/// <param name="Name">What it is (BT-153).</param>
/// <param name="ItemCode">Its item code (BT-155), or null.</param>
/// <param name="Quantity">How many (BT-129).</param>
/// <param name="NetMinor">All of them without tax (BT-131); at least 0.</param>
/// <param name="Tax">Its rate (BT-151, BT-152).</param>
public sealed record InvoiceLine(string Name, string? ItemCode, int Quantity, long NetMinor, TaxRate Tax)
{
    /// <summary>For how many its price is (BT-149): for one, or where that would be no whole number of cents, for all.</summary>
    [JsonIgnore]
    public int PricedFor => NetMinor % Quantity == 0 ? 1 : Quantity;

    /// <summary>The price of so many (BT-146).</summary>
    [JsonIgnore]
    public long PriceMinor => NetMinor / (Quantity / PricedFor);
}

/// <summary>What is taken off (BG-20), or charged for the whole order (BG-21).</summary>
/// <param name="Reason">What for (BT-97, BT-104).</param>
/// <param name="IsCharge">Whether it is charged.</param>
/// <param name="NetMinor">How much, without tax (BT-92, BT-99); above 0.</param>
/// <param name="Tax">Its rate (BT-95, BT-96, BT-102, BT-103).</param>
public sealed record InvoiceAdjustment(string Reason, bool IsCharge, long NetMinor, TaxRate Tax);

/// <summary>The tax at one rate (BG-23).</summary>
/// <param name="Rate">The rate (BT-118, BT-119).</param>
/// <param name="NetMinor">What it is reckoned of (BT-116).</param>
/// <param name="TaxMinor">The tax (BT-117): rounded half away from zero, once.</param>
/// <param name="Because">The categories of what stands at it: more than one where what is outside the tax stands with what is exempt.</param>
public sealed record InvoiceTax(TaxRate Rate, long NetMinor, long TaxMinor, ImmutableArray<TaxCategory> Because);
