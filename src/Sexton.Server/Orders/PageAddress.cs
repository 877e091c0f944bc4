using Sexton.Destinations.Pages;
using Sexton.Server.Common;

namespace Sexton.Server.Orders;

/// <summary>Where the pages of an order are.</summary>
internal static class PageAddress
{
    /// <summary>The address of the page of an order, below which its files are.</summary>
    public static string Of(StoredOrder order, string destination, OrderLinks links) =>
        destination switch
        {
            _ when destination == PageKind.Confirmation.Key => $"/api/shop/v1/orders/{links.TokenFor(order.Id)}",
            _ when destination == PageKind.Account.Key => $"/api/shop/v1/account/orders/{order.Number}",
            _ => $"/api/console/v1/orders/{order.Number}",
        };
}
