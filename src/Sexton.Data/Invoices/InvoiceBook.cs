using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Invoicing;
using Sexton.Core.Trail;
using Sexton.Core.Values;
using Sexton.Data.Rows;
using Sexton.Data.Sealing;

namespace Sexton.Data.Invoices;

/// <summary>What stands in the book of an invoice: its number for good, and its bytes once they are there.</summary>
public sealed class InvoiceBook(SextonDb db, KeyVault vault)
{
    private const string DocumentPurpose = "invoice document",
        PdfPurpose = "invoice pdf",
        XmlPurpose = "invoice xml";

    /// <summary>
    /// Takes a number for a payload, in one statement that stands alone: whatever goes wrong afterwards, the payload keeps it, and no other document gets it.
    /// Asked for again, it is the same. A number that somebody gave up, by settling its delivery by hand before it was issued, is taken before a new one.
    /// </summary>
    /// <param name="kind">The kind of document.</param>
    /// <param name="lane">The lane, with the payload that is in flight.</param>
    /// <param name="today">Today, in the time zone of the shop.</param>
    /// <param name="credits">The invoice that a credit note takes back.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<InvoiceRow> TakeAsync(InvoiceDocumentKind kind, LaneRow lane, DateOnly today, Guid? credits, CancellationToken cancel)
    {
        // One that an earlier payload took, and that was replaced before it was issued, is used now.
        await db
            .Invoices.Where(i => i.LaneId == lane.Id && i.Document == null && i.Sequence < lane.Sequence)
            .ExecuteUpdateAsync(set => set.SetProperty(i => i.Sequence, lane.Sequence).SetProperty(i => i.Credits, credits), cancel);
        if (await FindAsync(lane, cancel) is { } before)
        {
            return before;
        }

        // Ids tell in which order numbers were taken: one that was given up may be smaller than that of the invoice that it replaces.
        var id = Guid.CreateVersion7();
        try
        {
            await db.Database.ExecuteSqlAsync(
                $"""
                with given_up as (
                    select i.id from invoices i join lanes l on l.id = i.lane_id
                    where i.kind = {(short)kind} and i.document is null and l.state = {(short)DeliveryState.SettledByHand}
                    order by i.number limit 1 for update of i, l skip locked),
                again as (
                    update invoices i set id = {id}, order_id = {lane.OrderId}, lane_id = {lane.Id}, sequence = {lane.Sequence}, issued_on = {today}, credits = {credits}
                    from given_up where i.id = given_up.id returning i.id),
                taken as (
                    update invoice_counters set last = last + 1 where kind = {(short)kind} and not exists (select from again) returning last)
                insert into invoices (id, kind, number, order_id, lane_id, sequence, issued_on, credits, key)
                select {id}, {(short)kind}, last, {lane.OrderId}, {lane.Id}, {lane.Sequence}, {today}, {credits}, ''::bytea from taken
                """,
                cancel
            );
        }
        catch (Npgsql.PostgresException e) when (e.SqlState == Npgsql.PostgresErrorCodes.UniqueViolation)
        {
            // A worker whose lease ran out took one meanwhile; the statement took none.
        }

        return (await FindAsync(lane, cancel))!;
    }

    /// <summary>Where the numbers stand, invoices first.</summary>
    public async Task<IReadOnlyList<InvoiceCounterRow>> CountersAsync(CancellationToken cancel) =>
        await db.InvoiceCounters.AsNoTracking().OrderBy(static c => c.Kind).ToListAsync(cancel);

    /// <summary>Has the numbers of a kind begin with one.</summary>
    /// <param name="kind">The kind of document.</param>
    /// <param name="first">The number; at least 1.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>False where one was taken already: numbers go on from there.</returns>
    public async Task<bool> BeginAsync(InvoiceDocumentKind kind, long first, CancellationToken cancel) =>
        await db
            .InvoiceCounters.Where(c => c.Kind == kind && c.Last == c.First - 1)
            .ExecuteUpdateAsync(set => set.SetProperty(c => c.First, first).SetProperty(c => c.Last, first - 1), cancel) == 1;

    /// <summary>The document of the payload that a lane has in flight; null where no number was taken.</summary>
    public Task<InvoiceRow?> FindAsync(LaneRow lane, CancellationToken cancel) =>
        db.Invoices.AsNoTracking().FirstOrDefaultAsync(i => i.LaneId == lane.Id && i.Sequence == lane.Sequence, cancel);

    /// <summary>Whether a lane has a number that nothing was issued under yet, for whichever of its payloads it was taken.</summary>
    public Task<bool> OwesAsync(LaneRow lane, CancellationToken cancel) =>
        db.Invoices.AnyAsync(i => i.LaneId == lane.Id && i.Document == null, cancel);

    /// <summary>Those of an order that were issued, in the order in which they took their numbers, without their files.</summary>
    /// <param name="order">The id of the order.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<IReadOnlyList<InvoiceRow>> OfOrderAsync(Guid order, CancellationToken cancel) =>
        await db
            .Invoices.Where(i => i.OrderId == order && i.Document != null)
            .OrderBy(i => i.Id)
            .Select(static i => new InvoiceRow
            {
                Id = i.Id,
                Kind = i.Kind,
                Number = i.Number,
                OrderId = i.OrderId,
                LaneId = i.LaneId,
                Sequence = i.Sequence,
                IssuedOn = i.IssuedOn,
                Credits = i.Credits,
                CreditLaneId = i.CreditLaneId,
                CreditSequence = i.CreditSequence,
                Revision = i.Revision,
                Hash = i.Hash,
                Key = i.Key,
                Document = i.Document,
            })
            .ToListAsync(cancel);

    /// <summary>Says by which payload of a lane of credit notes an invoice is taken back. Called within the transaction that wants it.</summary>
    public Task TakeBackAsync(Guid invoice, long lane, int sequence, CancellationToken cancel) =>
        db
            .Invoices.Where(i => i.Id == invoice)
            .ExecuteUpdateAsync(set => set.SetProperty(i => i.CreditLaneId, lane).SetProperty(i => i.CreditSequence, sequence), cancel);

    /// <summary>Issues a document: keeps what it says and its bytes. What was issued before stays as it is.</summary>
    /// <param name="row">The row that has its number.</param>
    /// <param name="revision">The revision of the order.</param>
    /// <param name="hash">Tells what stands on it.</param>
    /// <param name="document">What it says.</param>
    /// <param name="pdf">The PDF.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>The PDF that is kept: this one, or the one of before.</returns>
    /// <exception cref="InvalidOperationException">The number was given up meanwhile, and another delivery has it.</exception>
    public async Task<byte[]> IssueAsync(
        InvoiceRow row,
        int revision,
        byte[] hash,
        InvoiceDocument document,
        byte[] pdf,
        CancellationToken cancel
    )
    {
        var (key, wrapped) = vault.Make();
        var (said, xml) = (JsonSerializer.SerializeToUtf8Bytes(document, DocumentJson.Options), UblWriter.Write(document));
        var (sealedDocument, sealedPdf, sealedXml) = (
            key.SealPacked(said, DocumentPurpose),
            key.SealPacked(pdf, PdfPurpose),
            key.SealPacked(xml, XmlPurpose)
        );
        await db
            .Invoices.Where(i => i.Id == row.Id && i.LaneId == row.LaneId && i.Document == null)
            .ExecuteUpdateAsync(
                set =>
                    set.SetProperty(i => i.Revision, revision)
                        .SetProperty(i => i.Hash, hash)
                        .SetProperty(i => i.Key, wrapped)
                        .SetProperty(i => i.Document, sealedDocument)
                        .SetProperty(i => i.Pdf, sealedPdf)
                        .SetProperty(i => i.Xml, sealedXml),
                cancel
            );
        return await db.Invoices.AnyAsync(i => i.Id == row.Id && i.LaneId == row.LaneId, cancel)
            ? await PdfAsync(row.Id, cancel)
            : throw new InvalidOperationException("its number was given up, and is another’s now.");
    }

    /// <summary>What a document that was issued says.</summary>
    public InvoiceDocument DocumentOf(InvoiceRow issued) =>
        JsonSerializer.Deserialize<InvoiceDocument>(vault.Open(issued.Key).Open(issued.Document!, DocumentPurpose), DocumentJson.Options)!;

    /// <summary>The PDF of a document that was issued.</summary>
    /// <param name="id">Its id.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<byte[]> PdfAsync(Guid id, CancellationToken cancel)
    {
        var kept = await db.Invoices.Where(i => i.Id == id).Select(static i => new { i.Key, i.Pdf }).SingleAsync(cancel);
        return vault.Open(kept.Key).Open(kept.Pdf!, PdfPurpose);
    }

    /// <summary>The XML of a document that was issued.</summary>
    /// <param name="id">Its id.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<byte[]> XmlAsync(Guid id, CancellationToken cancel)
    {
        var kept = await db.Invoices.Where(i => i.Id == id).Select(static i => new { i.Key, i.Xml }).SingleAsync(cancel);
        return vault.Open(kept.Key).Open(kept.Xml!, XmlPurpose);
    }
}
