using System.Security.Claims;
using Sexton.Core.Invoicing;
using Sexton.Data;
using Sexton.Data.Invoices;
using Sexton.Data.Rows;
using Sexton.Server.Accounts;
using Sexton.Server.Common;

namespace Sexton.Server.Settings;

/// <summary>With which number invoices and credit notes begin, so that they go on from what the shop issued before; once the first is taken, that stands.</summary>
internal static class InvoiceNumberEndpoints
{
    /// <summary>No number is greater at first: it has room to count up, and stands on one line.</summary>
    private const long Most = 999_999_999;

    public static void MapInvoiceNumbers(this IEndpointRouteBuilder shop)
    {
        shop.MapGet("invoice-numbers", ReadAsync).WithName("GetInvoiceNumbers");
        shop.MapPut("invoice-numbers", WriteAsync).WithName("WriteInvoiceNumber");
    }

    private static async Task<IReadOnlyList<InvoiceNumberView>> ReadAsync(InvoiceBook book, CancellationToken cancel) =>
        [.. (await book.CountersAsync(cancel)).Select(ViewOf)];

    private static async Task<IReadOnlyList<InvoiceNumberView>> WriteAsync(
        FirstInvoiceNumber wanted,
        ClaimsPrincipal user,
        SextonDb db,
        InvoiceBook book,
        ShopRecord record,
        CancellationToken cancel
    )
    {
        if (wanted.First is < 1 or > Most)
        {
            throw ApiProblemException.Unprocessable("number_refused", $"Give a whole number from 1 to {Most}.");
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (!await book.BeginAsync(wanted.Kind, wanted.First, cancel))
        {
            throw ApiProblemException.Conflict(
                "numbers_begun",
                "A number was taken since: the next one follows it, or there would be a gap."
            );
        }

        var what = wanted.Kind == InvoiceDocumentKind.Invoice ? "invoices" : "credit notes";
        record.Write(user, $"said that {what} begin with number {wanted.First}");
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return await ReadAsync(book, cancel);
    }

    private static InvoiceNumberView ViewOf(InvoiceCounterRow counter) =>
        new(counter.Kind, counter.Last + 1, counter.Last >= counter.First);
}

/// <summary>Where the numbers of a kind of document stand.</summary>
/// <param name="Kind">Which.</param>
/// <param name="Next">The number that is taken next.</param>
/// <param name="HasBegun">Whether one was taken already, so that they go on by themselves.</param>
internal sealed record InvoiceNumberView(InvoiceDocumentKind Kind, long Next, bool HasBegun);

/// <summary>With which number a kind of document begins.</summary>
/// <param name="Kind">Which.</param>
/// <param name="First">The number; from 1.</param>
internal sealed record FirstInvoiceNumber(InvoiceDocumentKind Kind, long First);
