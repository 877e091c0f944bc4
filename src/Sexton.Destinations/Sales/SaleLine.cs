using Sexton.Core.Codes;
using Sexton.Core.Orders;
using Sexton.Core.Projections;

namespace Sexton.Destinations.Sales;

/// <summary>A line of a sale as it leaves: a line of the order, or one of the components that were chosen with it.</summary>
/// <param name="Reference">Its own reference.</param>
/// <param name="PartOf">The id of the order's line.</param>
/// <param name="Item">The item code.</param>
/// <param name="Description">What it is called.</param>
/// <param name="Quantity">How many.</param>
/// <param name="Goods">The row of the goods; null for a component, whose amounts are charges.</param>
/// <param name="Charges">The other amounts.</param>
/// <param name="Notes">The answers of the line.</param>
/// <param name="Pieces">The single ones of the line that stand under it, with what was answered about each.</param>
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
    IReadOnlyList<SalePiece> Pieces,
    IReadOnlyList<OrderUsage> Components
)
{
    /// <summary>The lines of an order as they leave. Whatever leaves how, all amounts and answers are there once.</summary>
    public static IEnumerable<SaleLine> Of(SentOrder order) => order.Content.Lines.SelectMany(line => Of(order, line));

    private static IEnumerable<SaleLine> Of(SentOrder order, OrderLine line)
    {
        var prices = order.Prices;
        var (goods, charges, notes) = (prices.GoodsOf(line.Id), prices.ExtrasOf(line.Id).ToList(), order.Projection.Of(line.Id).ToList());
        var components = order
            .Content.Uses.Where(u => u.LineId == line.Id && u is { Field: not null, IsSold: true })
            .GroupBy(static u => (u.Field, u.Item))
            .Select(static g => new Component(g.Key.Field!, [.. g]))
            .ToList();
        var own = components.FindAll(c => order.LeavingOf(line, c.Field) != LineLeaving.Together);
        List<OrderUsage> within = [.. components.Except(own).Select(static c => c.AsUse)];

        // What is about a component that leaves by itself goes with it; the rest stays with the goods, or where these do not leave with the first component instead of them.
        var rest = own.Find(c => order.LeavingOf(line, c.Field) == LineLeaving.Instead);
        Component? CarrierOf(Entry entry) => own.Find(c => c.Field == entry.Field && c.IsUsedBy(entry.UnitId)) ?? rest;
        Component? CarrierOfCharge(OrderPrice row) =>
            own.Find(c => c.Field == row.Field && c.Item == row.Item)
            ?? own.Find(c => c.Field == row.Field && row.Choice is not null && c.Choices.Contains(row.Choice) && c.IsUsedBy(row.UnitId))
            ?? own.Find(c => c.Field == row.Field && c.IsUsedBy(row.UnitId))
            ?? rest;
        if (rest is null)
        {
            yield return new SaleLine(
                line.Id,
                line.Id,
                line.ItemCode,
                line.ProductName,
                line.Quantity,
                goods,
                [.. charges.Where(c => CarrierOfCharge(c) is null)],
                [.. notes.Where(n => CarrierOf(n) is null)],
                PiecesOf(order, line, (_, entry) => CarrierOf(entry) is null, all: true),
                within
            );
        }

        foreach (var component in own)
        {
            var carries = component == rest;
            yield return new SaleLine(
                carries ? line.Id : $"{line.Id}/{component.Field}/{component.Item}",
                line.Id,
                component.Item,
                component.AsUse.Name,
                component.AsUse.Quantity,
                null,
                [.. carries ? [goods] : Array.Empty<OrderPrice>(), .. charges.Where(c => CarrierOfCharge(c) == component)],
                [.. notes.Where(n => CarrierOf(n) == component)],
                PiecesOf(order, line, (_, entry) => CarrierOf(entry) == component, carries),
                carries ? within : []
            );
        }
    }

    // All of them, or those of which something is said.
    private static List<SalePiece> PiecesOf(SentOrder order, OrderLine line, Func<string, Entry, bool> isHere, bool all) =>
        [
            .. line
                .Units.Select(u => new SalePiece(
                    u,
                    line.NameOf(u, order.Content.Language),
                    [.. order.Projection.Of(line.Id, u).Where(e => isHere(u, e))]
                ))
                .Where(p => all || p.Notes.Count > 0),
        ];

    /// <summary>A component of a line, for one field: what several choices or units of it use of the same thing is one.</summary>
    private sealed class Component(string key, IReadOnlyList<OrderUsage> uses)
    {
        public string Field => key;

        public string Item => uses[0].Item;

        public IEnumerable<string> Choices => uses.Select(static u => u.Choice).OfType<string>();

        public OrderUsage AsUse => uses[0] with { Quantity = uses.Sum(static u => u.Quantity), UnitId = null };

        public bool IsUsedBy(string? unit) => unit is null || uses.Any(u => u.UnitId is null || u.UnitId == unit);
    }
}

/// <summary>A single one of a line.</summary>
/// <param name="Unit">Its id.</param>
/// <param name="Name">What it is called: "Seat 1 of 3".</param>
/// <param name="Notes">What was answered about it.</param>
internal sealed record SalePiece(string Unit, string Name, IReadOnlyList<Entry> Notes);
