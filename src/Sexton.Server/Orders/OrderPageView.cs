using Sexton.Core.Orders;
using Sexton.Core.Plan;
using Sexton.Core.Projections;
using Sexton.Core.Values;
using Sexton.Server.Shop;

namespace Sexton.Server.Orders;

/// <summary>An order as a page shows it.</summary>
/// <param name="Number">The number.</param>
/// <param name="PlacedAt">When it was placed.</param>
/// <param name="Version">The version of the register under which it was placed.</param>
/// <param name="Prices">What it comes to.</param>
/// <param name="Lines">The lines.</param>
/// <param name="Entries">The answers that the page shows.</param>
internal sealed record OrderPageView(
    long Number,
    DateTimeOffset PlacedAt,
    int Version,
    PricesView Prices,
    IReadOnlyList<OrderLineView> Lines,
    IReadOnlyList<EntryView> Entries
)
{
    /// <param name="order">The order.</param>
    /// <param name="projection">The answers that the page shows.</param>
    /// <param name="current">The current register, which says which prices are shown where.</param>
    /// <param name="page">The key of the page.</param>
    /// <param name="address">The address of the page, below which the files are fetched.</param>
    public static OrderPageView Of(StoredOrder order, Projection projection, RegisterPlan current, string page, string address) =>
        new(
            order.Number,
            order.PlacedAt,
            order.Content.Version,
            PricesView.Of(order.Content, projection, current, page),
            [.. order.Content.Lines.Select(l => OrderLineView.Of(l, order.Content))],
            EntryView.Of(projection, address, order.Content.Language)
        );
}

/// <summary>A line of an order.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Code">Its item code.</param>
/// <param name="Name">Its name.</param>
/// <param name="Quantity">How many.</param>
/// <param name="Sum">What it comes to with all that its answers add.</param>
/// <param name="Units">Each one of it, where each one was asked.</param>
internal sealed record OrderLineView(string Id, string Code, string Name, int Quantity, string Sum, IReadOnlyList<NamedUnit> Units)
{
    public static OrderLineView Of(OrderLine line, OrderContent order) =>
        new(
            line.Id,
            line.ItemCode,
            line.ProductName,
            line.Quantity,
            MoneyText.Format(order.Prices.SumOf(line.Id), order.Prices.Currency, order.Language),
            [.. line.Units.Select(u => new NamedUnit(u, line.NameOf(u, order.Language)))]
        );
}

/// <summary>One of a line, with what it is called: "Seat 1 of 3".</summary>
internal sealed record NamedUnit(string Id, string Name);
