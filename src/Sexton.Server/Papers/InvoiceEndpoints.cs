using System.Security.Claims;
using Sexton.Core.Invoicing;
using Sexton.Core.Values;
using Sexton.Data.Invoices;
using Sexton.Data.Rows;
using Sexton.Server.Accounts;
using Sexton.Server.Common;
using Sexton.Server.Orders;

namespace Sexton.Server.Papers;

/// <summary>The invoices and credit notes of an order, as they were issued, for staff: also of one that was erased since, for as long as the books are kept.</summary>
internal static class InvoiceEndpoints
{
    public static void MapInvoices(this IEndpointRouteBuilder console)
    {
        console.MapGet("orders/{number:long}/invoices", ListAsync).WithName("GetInvoices");
        console
            .MapGet("orders/{number:long}/invoices/{id:guid}", OpenAsync)
            .WithName("OpenInvoice")
            .Produces<byte[]>(contentType: InvoiceFiles.Pdf);
        console
            .MapGet("orders/{number:long}/invoices/{id:guid}/xml", OpenXmlAsync)
            .WithName("OpenInvoiceXml")
            .Produces<byte[]>(contentType: InvoiceFiles.Xml);
    }

    private static async Task<IReadOnlyList<InvoiceView>> ListAsync(
        string number,
        OrderReader orders,
        InvoiceBook book,
        CancellationToken cancel
    ) => await InvoiceFiles.ListAsync(book, (await orders.FindAsync(number, cancel)).Id, cancel);

    private static async Task<IResult> OpenAsync(
        string number,
        Guid id,
        ClaimsPrincipal user,
        StaffInvoices invoices,
        InvoiceBook book,
        CancellationToken cancel
    )
    {
        var row = await invoices.OpenAsync(number, id, Actor.Of(user), cancel);
        return TypedResults.Bytes(await book.PdfAsync(row.Id, cancel), InvoiceFiles.Pdf);
    }

    private static async Task<IResult> OpenXmlAsync(
        string number,
        Guid id,
        ClaimsPrincipal user,
        StaffInvoices invoices,
        InvoiceBook book,
        CancellationToken cancel
    )
    {
        var row = await invoices.OpenAsync(number, id, Actor.Of(user), cancel);
        return TypedResults.Bytes(await book.XmlAsync(row.Id, cancel), InvoiceFiles.Xml, InvoiceFiles.NameOf(row, "xml"));
    }
}

/// <summary>Invoices and credit notes as files.</summary>
internal static class InvoiceFiles
{
    /// <summary>The media type of the paper.</summary>
    public const string Pdf = "application/pdf";

    /// <summary>The media type of the document (RFC 7303).</summary>
    public const string Xml = "application/xml";

    /// <summary>Those of an order, the oldest first.</summary>
    public static async Task<IReadOnlyList<InvoiceView>> ListAsync(InvoiceBook book, Guid order, CancellationToken cancel)
    {
        var rows = await book.OfOrderAsync(order, cancel);
        var numbers = rows.ToDictionary(static r => r.Id, static r => r.Number);
        return
        [
            .. rows.Select(row =>
            {
                var document = book.DocumentOf(row);
                return new InvoiceView(
                    row.Id,
                    row.Kind,
                    row.Number,
                    row.IssuedOn,
                    MoneyText.Format(document.Amounts.PayableMinor, document.Currency, "en"),
                    row.Credits is { } credited ? numbers[credited] : null,
                    rows.FirstOrDefault(r => r.Credits == row.Id)?.Number
                );
            }),
        ];
    }

    /// <summary>One of an order.</summary>
    /// <exception cref="ApiProblemException">The order has none of that id.</exception>
    public static async Task<InvoiceRow> FindAsync(InvoiceBook book, Guid order, Guid id, CancellationToken cancel) =>
        (await book.OfOrderAsync(order, cancel)).FirstOrDefault(r => r.Id == id)
        ?? throw ApiProblemException.NotFound("The order has no such invoice.");

    /// <summary>Under which name one is saved.</summary>
    public static string NameOf(InvoiceRow row, string form) =>
        $"{(row.Kind == InvoiceDocumentKind.Invoice ? "invoice" : "credit-note")}-{row.Number}.{form}";
}

/// <summary>An invoice or a credit note of an order.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Kind">Which of them it is.</param>
/// <param name="Number">Its number.</param>
/// <param name="IssuedOn">The day on which it was issued.</param>
/// <param name="Total">What it comes to.</param>
/// <param name="Credits">The number of the invoice that it takes back; null for an invoice.</param>
/// <param name="CreditedBy">The number of the credit note that takes it back; null for none.</param>
internal sealed record InvoiceView(
    Guid Id,
    InvoiceDocumentKind Kind,
    long Number,
    DateOnly IssuedOn,
    string Total,
    long? Credits,
    long? CreditedBy
);
