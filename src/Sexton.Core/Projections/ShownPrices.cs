using Sexton.Core.Facts;
using Sexton.Core.Orders;
using Sexton.Core.Plan;
using Sexton.Core.Pricing;
using Sexton.Core.Register;

namespace Sexton.Core.Projections;

/// <summary>The prices of a cart or an order as one destination shows them.</summary>
public static class ShownPrices
{
    /// <summary>
    /// The rows as a destination shows them: what stays within the goods there, and is taxed as they are, is added to the row of the goods of its line, so that the rows
    /// still sum. Where the sum cannot be shared out evenly, the row has no amount for one (0).
    /// </summary>
    /// <param name="prices">What it comes to.</param>
    /// <param name="register">The current register, which says what is shown where.</param>
    /// <param name="shownAt">The key of the destination, or <see cref="Field.OnTheForm"/>.</param>
    /// <param name="order">The order, where its rows go to a destination.</param>
    /// <param name="projection">What that destination gets of its answers.</param>
    public static IReadOnlyList<OrderPrice> RowsAt(
        this PriceList prices,
        RegisterPlan register,
        string shownAt,
        OrderContent order,
        Projection projection
    )
    {
        // What a destination does not get it cannot read from the name of a row either: there the row says what was asked, and not what was answered.
        var gets = projection.Entries.Select(static e => e.Slot).ToHashSet();
        var hidden = order
            .Answers.Where(a => a.Value is not null && !gets.Contains(a.Slot))
            .ToLookup(static a => a.Field, StringComparer.Ordinal);
        if (register.Destinations.Find(shownAt)?.Takes(Level.Order) != true || hidden.Count == 0)
        {
            return prices.RowsAt(register, shownAt);
        }

        bool IsHidden(OrderPrice row) =>
            row.Field is not null
            && hidden[row.Field]
                .Any(a =>
                    row.LineId is null || (a.LineId == row.LineId && (row.UnitId is null || a.UnitId == row.UnitId)) || a.LineId is null
                );
        var named = prices.Rows.Select(r =>
            IsHidden(r) ? r with { Label = hidden[r.Field!].First().Label, Choice = null, Item = null } : r
        );
        return (prices with { Rows = [.. named] }).RowsAt(register, shownAt);
    }

    /// <inheritdoc cref="RowsAt(PriceList, RegisterPlan, string, OrderContent, Projection)"/>
    public static IReadOnlyList<OrderPrice> RowsAt(this PriceList prices, RegisterPlan register, string shownAt)
    {
        // A row says at which rate it is taxed, and so only what is taxed alike stands in one.
        bool IsWithin(OrderPrice row) =>
            row.LineId is not null
            && row.Field is not null
            && register.Find(row.Field)?.Field.PriceWithin.Contains(shownAt) == true
            && row.Tax == prices.GoodsOf(row.LineId).Tax;
        var within = prices.Rows.Where(IsWithin).ToLookup(static r => r.LineId);
        return within.Count == 0
            ? prices.Rows
            : [.. prices.Rows.Where(r => !IsWithin(r)).Select(r => r.Kind == PriceRowKind.Goods ? r.With(within[r.LineId]) : r)];
    }
}
