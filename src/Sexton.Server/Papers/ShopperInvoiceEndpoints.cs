using Sexton.Data;
using Sexton.Data.Invoices;
using Sexton.Server.Orders;
using Sexton.Server.Shoppers;

namespace Sexton.Server.Papers;

/// <summary>The invoices and credit notes of an order in the shopper's account.</summary>
internal static class ShopperInvoiceEndpoints
{
    public static void MapShopperInvoices(this IEndpointRouteBuilder shop)
    {
        shop.MapGet("account/orders/{number:long}/invoices", ListAsync).WithName("GetShopperInvoices");
        shop.MapGet("account/orders/{number:long}/invoices/{id:guid}", OpenAsync)
            .WithName("OpenShopperInvoice")
            .Produces<byte[]>(contentType: InvoiceFiles.Pdf);
    }

    private static async Task<IReadOnlyList<InvoiceView>> ListAsync(
        long number,
        ShopperSession session,
        SextonDb db,
        OrderReader orders,
        InvoiceBook book,
        CancellationToken cancel
    ) => await InvoiceFiles.ListAsync(book, (await AccountOrderEndpoints.FindAsync(number, session, db, orders, cancel)).Id, cancel);

    private static async Task<IResult> OpenAsync(
        long number,
        Guid id,
        ShopperSession session,
        SextonDb db,
        OrderReader orders,
        InvoiceBook book,
        CancellationToken cancel
    )
    {
        var order = await AccountOrderEndpoints.FindAsync(number, session, db, orders, cancel);
        var row = await InvoiceFiles.FindAsync(book, order.Id, id, cancel);
        return TypedResults.Bytes(await book.PdfAsync(row.Id, cancel), InvoiceFiles.Pdf, InvoiceFiles.NameOf(row, "pdf"));
    }
}
