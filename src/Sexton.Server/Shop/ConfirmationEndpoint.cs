using Sexton.Core.Orders;
using Sexton.Core.Pricing;
using Sexton.Core.Routing;
using Sexton.Server.Hosting;
using Sexton.Server.Orders;

namespace Sexton.Server.Shop;

/// <summary>The shopper's page of an order, reached by its signed link.</summary>
internal static class ConfirmationEndpoint
{
    public static void MapConfirmation(this IEndpointRouteBuilder shop) =>
        shop.MapGet("orders/{token}", ReadAsync).WithName("GetConfirmation").Produces<OrderPageView>();

    private static async Task<IResult> ReadAsync(string token, OrderLinks links, OrderReader orders, Servings servings, CancellationToken cancel)
    {
        var order = links.Read(token) is { } id ? await orders.FindAsync(id, cancel) : null;
        return order is null
            ? throw ApiProblemException.NotFound("There is no order under this link. Use the link in your e-mail as it is.")
            : await servings.ServeAsync(order, DestinationIndex.Confirmation, projection => OrderPageView.Of(order, projection), cancel);
    }
}

/// <summary>An order as a page shows it.</summary>
/// <param name="Number">The number.</param>
/// <param name="PlacedAt">When it was placed.</param>
/// <param name="Version">The version of the register under which it was placed.</param>
/// <param name="Total">The total as text.</param>
/// <param name="Lines">The lines.</param>
/// <param name="Entries">The answers that the page shows.</param>
internal sealed record OrderPageView(long Number, DateTimeOffset PlacedAt, int Version, string Total, IReadOnlyList<OrderLineView> Lines, IReadOnlyList<EntryView> Entries)
{
    public static OrderPageView Of(StoredOrder order, Projection projection) => new(
        order.Number,
        order.PlacedAt,
        order.Content.Version,
        MoneyText.Format(order.Content.TotalMinor, order.Content.Currency, order.Content.Language),
        [.. order.Content.Lines.Select(l => OrderLineView.Of(l, order.Content))],
        EntryView.Of(projection));
}

/// <summary>A line of an order.</summary>
internal sealed record OrderLineView(string Id, string Code, string Name, int Quantity, string Unit, string Sum, IReadOnlyList<NamedUnit> Units)
{
    public static OrderLineView Of(OrderLine line, OrderContent order) => new(
        line.Id,
        line.ProductCode,
        line.ProductName,
        line.Quantity,
        MoneyText.Format(line.UnitMinor, order.Currency, order.Language),
        MoneyText.Format(line.SumMinor, order.Currency, order.Language),
        [.. line.Units.Select(u => new NamedUnit(u, line.NameOf(u)))]);
}

/// <summary>One of a line, with what it is called: "Seat 1 of 3".</summary>
internal sealed record NamedUnit(string Id, string Name);
