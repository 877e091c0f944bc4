using System.Globalization;
using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Invoicing;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Invoices;
using Sexton.Data.Queue;
using Sexton.Data.Rows;
using Sexton.Destinations;
using Sexton.Destinations.CreditNote;
using Sexton.Destinations.Invoices;
using Sexton.Server.Common;
using Sexton.Server.Versions;

namespace Sexton.Server.Deliveries;

/// <summary>
/// Issues invoices and credit notes: takes the number, has the paper made, and keeps its bytes, each once whatever breaks in between. An invoice of a corrected order on
/// which something changed replaces the one before, which a credit note takes back.
/// </summary>
internal sealed class InvoiceIssuer(
    InvoiceBook book,
    SextonDb db,
    LaneQueue queue,
    CurrentRegister current,
    ShopClock shop,
    TimeProvider clock
)
{
    /// <summary>Makes a try of an invoice or a credit note.</summary>
    /// <param name="kind">Its kind.</param>
    /// <param name="claimed">The lane.</param>
    /// <param name="order">What goes.</param>
    /// <param name="revision">The revision that it is of.</param>
    /// <param name="send">Has the paper made of an order that bears its number.</param>
    public async Task<SendResult> SendAsync(
        InvoicePaperKind kind,
        LaneRow claimed,
        SentOrder order,
        int revision,
        Func<SentOrder, Task<SendResult>> send
    )
    {
        var own = await book.FindAsync(claimed, CancellationToken.None);
        if (own is { Document: not null })
        {
            await TakeBackAsync(claimed.OrderId);
            return await TakenAsync("It was issued before, as", own);
        }

        var hash = HashOf(kind.DocumentOf(order), order);
        var credited = kind.Issues == InvoiceDocumentKind.CreditNote ? await CreditedAsync(claimed) : null;
        if (own is null && await WithoutNumberAsync(kind, claimed, hash, credited) is { } ended)
        {
            return ended;
        }

        // What cannot be written takes no number.
        UblWriter.Write(kind.DocumentOf(order));
        var row = await book.TakeAsync(kind.Issues, claimed, shop.Today, credited?.Id, CancellationToken.None);
        var numbered = order with
        {
            Issued = new IssuedNumber(Text(row.Number), row.IssuedOn, credited is null ? null : book.DocumentOf(credited)),
        };
        var result = await send(numbered);
        if (result is not { Outcome: SendOutcome.Taken, Artefact: { } pdf })
        {
            return result;
        }

        var kept = await book.IssueAsync(row, revision, hash, kind.DocumentOf(numbered), pdf, CancellationToken.None);
        await TakeBackAsync(claimed.OrderId);
        return result with
        {
            Artefact = kept,
            Receipt = Text(row.Number),
            Detail = $"{result.Detail} Issued as number {Text(row.Number)}.",
        };
    }

    // What ends before a number is taken: nothing changed, or something is missing. Null where one is to be taken, or was taken for a payload before that was never
    // issued: then it is issued although nothing changed, since the number would be a gap.
    private async Task<SendResult?> WithoutNumberAsync(InvoicePaperKind kind, LaneRow claimed, byte[] hash, InvoiceRow? credited)
    {
        if (kind.Issues == InvoiceDocumentKind.CreditNote)
        {
            return credited is null ? new SendResult(SendOutcome.Stopped, "There is no invoice that it takes back.") : null;
        }

        var standing = (await InvoicesAsync(claimed.OrderId)).LastOrDefault(i => i.LaneId == claimed.Id);
        return standing is null ? null
            : standing.Hash.AsSpan().SequenceEqual(hash) && !await book.OwesAsync(claimed, CancellationToken.None)
                ? await TakenAsync("Nothing on it changed:", standing)
            : await CreditNoteAsync() is null
                ? new SendResult(
                    SendOutcome.Stopped,
                    $"It replaces the invoice {Text(standing.Number)}, and nothing takes that back. Make a destination that is a credit note."
                )
            : null;
    }

    /// <summary>The invoice that the payload of a lane of credit notes takes back; null for none.</summary>
    public async Task<InvoiceRow?> CreditedAsync(LaneRow claimed) =>
        (await InvoicesAsync(claimed.OrderId)).FirstOrDefault(i => i.CreditLaneId == claimed.Id && i.CreditSequence == claimed.Sequence);

    // Those that another one replaces, in the order in which they were replaced. Who makes two invoices of an order meant two, and neither replaces the other.
    private async Task<IReadOnlyList<InvoiceRow>> ReplacedAsync(Guid order) =>
        [
            .. (await InvoicesAsync(order))
                .GroupBy(static i => i.LaneId)
                .SelectMany(static lane => lane.Zip(lane.Skip(1)))
                .OrderBy(static pair => pair.Second.Id)
                .Select(static pair => pair.First),
        ];

    // What was replaced is taken back: the lane of credit notes wants a payload for each. Done twice, it is done once.
    private async Task TakeBackAsync(Guid order)
    {
        if (await CreditNoteAsync() is not { } to || !(await ReplacedAsync(order)).Any(IsToTakeBack))
        {
            return;
        }

        await using var transaction = await db.Database.BeginTransactionAsync();
        await db.Database.ExecuteSqlAsync($"select 1 from orders where id = {order} for update");
        var revision = await db.Orders.Where(o => o.Id == order).Select(static o => o.Revision).SingleAsync();
        var lane = await db
            .Lanes.FromSql($"select * from lanes where order_id = {order} and destination = {to.Key} for update")
            .SingleOrDefaultAsync();
        foreach (var invoice in (await ReplacedAsync(order)).Where(IsToTakeBack))
        {
            if (lane is null)
            {
                db.Lanes.Add(lane = FirstOf(order, to));
                await db.SaveChangesAsync();
            }
            else
            {
                await queue.WantAsync(lane, revision, replaces: false, clock.GetUtcNow(), CancellationToken.None);
            }

            await book.TakeBackAsync(invoice.Id, lane.Id, lane.Wanted, CancellationToken.None);
        }

        await transaction.CommitAsync();
        db.ChangeTracker.Clear();
    }

    private static bool IsToTakeBack(InvoiceRow replaced) => replaced.CreditSequence is null;

    private LaneRow FirstOf(Guid order, BoundDestination to) =>
        new()
        {
            OrderId = order,
            Destination = to.Key,
            LineId = "",
            UnitId = "",
            Wanted = 1,
            Sequence = 1,
            State = DeliveryState.Waiting,
            Tries = 0,
            NextTryAt = clock.GetUtcNow(),
            Fence = 0,
            WasUncertain = false,
            Release = Release.Placed,
        };

    private async Task<IReadOnlyList<InvoiceRow>> InvoicesAsync(Guid order) =>
        [.. (await book.OfOrderAsync(order, CancellationToken.None)).Where(static i => i.Kind == InvoiceDocumentKind.Invoice)];

    private async Task<BoundDestination?> CreditNoteAsync() =>
        (await current.GetAsync(CancellationToken.None)).Version.Plan.Destinations.All.FirstOrDefault(static d => d.Kind is CreditNoteKind);

    private async Task<SendResult> TakenAsync(string how, InvoiceRow issued) =>
        new(
            SendOutcome.Taken,
            $"{how} number {Text(issued.Number)}.",
            Text(issued.Number),
            await book.PdfAsync(issued.Id, CancellationToken.None)
        );

    // Of the order alone: that the shop has moved since, or says something otherwise, is no reason to take an invoice back.
    private static byte[] HashOf(InvoiceDocument document, SentOrder order) =>
        SHA256.HashData(
            JsonSerializer.SerializeToUtf8Bytes(
                new
                {
                    document.Amounts,
                    document.Buyer,
                    document.Reference,
                    order.Projection.Entries,
                },
                DocumentJson.Options
            )
        );

    private static string Text(long number) => number.ToString(CultureInfo.InvariantCulture);
}
