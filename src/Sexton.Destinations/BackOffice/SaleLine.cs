using Sexton.Core.Codes;
using Sexton.Core.Orders;
using Sexton.Core.Routing;

namespace Sexton.Destinations.BackOffice;

/// <summary>A line of a sale as it leaves: a line of the order, or one of the components that were chosen with it.</summary>
/// <param name="Reference">Its own reference.</param>
/// <param name="PartOf">The id of the order's line.</param>
/// <param name="Item">The item code.</param>
/// <param name="Description">What it is called.</param>
/// <param name="Quantity">How many.</param>
/// <param name="Goods">The row of the goods; null for a component, whose amounts are charges.</param>
/// <param name="Charges">The other amounts.</param>
/// <param name="Notes">The answers of the line.</param>
/// <param name="Pieces">The line whose pieces stand under it, or null.</param>
/// <param name="Components">What it uses up.</param>
internal sealed record SaleLine(
    string Reference,
    string PartOf,
    string Item,
    string Description,
    long Quantity,
    OrderPrice? Goods,
    IReadOnlyList<OrderPrice> Charges,
    IReadOnlyList<Entry> Notes,
    OrderLine? Pieces,
    IReadOnlyList<OrderUse> Components)
{
    /// <summary>The lines of an order as they leave. Whatever leaves how, all amounts and answers are there once.</summary>
    public static IEnumerable<SaleLine> Of(SentOrder order) => order.Content.Lines.SelectMany(line => Of(order, line));

    private static IEnumerable<SaleLine> Of(SentOrder order, OrderLine line)
    {
        var prices = order.Content.Prices;
        var (goods, charges, notes) = (prices.GoodsOf(line.Id), prices.ExtrasOf(line.Id).ToList(), order.Projection.Of(line.Id).ToList());
        var components = order.Content.Uses.Where(u => u.LineId == line.Id && u is { Field: not null, IsSold: true })
            .GroupBy(static u => (u.Field, u.Item)).Select(static g => g.First() with { Quantity = g.Sum(static u => u.Quantity), UnitId = null }).ToList();
        if (order.Leaving == LineLeaving.Together || components.Count == 0)
        {
            yield return new SaleLine(line.Id, line.Id, line.ItemCode, line.ProductName, line.Quantity, goods, charges, notes, line, components);
            yield break;
        }

        // What is about a field goes with the first component of that field; the rest stays with the goods, or without them with the first of all.
        bool IsOf(string? field, OrderUse use) => field is not null && components.Find(c => c.Field == field) == use;
        bool IsOfAny(string? field) => components.Exists(c => c.Field == field);
        var (ownCharges, ownNotes) = (charges.Where(c => !IsOfAny(c.Field)).ToList(), notes.Where(n => !IsOfAny(n.Field)).ToList());
        var instead = order.Leaving == LineLeaving.Instead;
        if (!instead)
        {
            yield return new SaleLine(line.Id, line.Id, line.ProductCode, line.ProductName, line.Quantity, goods, ownCharges, ownNotes, line, []);
        }

        foreach (var (use, i) in components.Select(static (u, i) => (u, i)))
        {
            var carries = instead && i == 0;
            yield return new SaleLine(
                carries ? line.Id : $"{line.Id}/{use.Field}/{use.Item}",
                line.Id,
                use.Item,
                use.Name,
                use.Quantity,
                null,
                [.. carries ? ownCharges.Prepend(goods) : [], .. charges.Where(c => IsOf(c.Field, use))],
                [.. carries ? ownNotes : [], .. notes.Where(n => IsOf(n.Field, use))],
                carries ? line : null,
                []);
        }
    }
}
