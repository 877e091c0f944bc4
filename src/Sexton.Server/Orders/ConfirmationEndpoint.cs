using Sexton.Destinations.Pages;
using Sexton.Server.Common;

namespace Sexton.Server.Orders;

/// <summary>The shopper's page of an order, reached by its signed link.</summary>
internal static class ConfirmationEndpoint
{
    public static void MapConfirmation(this IEndpointRouteBuilder shop) =>
        shop.MapGet("orders/{token}", ReadAsync).WithName("GetConfirmation").Produces<OrderPageView>();

    private static async Task<IResult> ReadAsync(
        string token,
        OrderLinks links,
        OrderReader orders,
        PageViews pageViews,
        CancellationToken cancel
    )
    {
        var order = links.Read(token) is { } id ? await orders.FindAsync(id, cancel) : null;
        return order is null
            ? throw ApiProblemException.Said(StatusCodes.Status404NotFound, "not_found", "order_link")
            : await pageViews.ServeAsync(order, PageKind.Confirmation.Key, cancel);
    }
}
