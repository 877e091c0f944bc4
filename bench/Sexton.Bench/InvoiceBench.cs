using System.Collections.Immutable;
using System.Globalization;
using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Sexton.Core.Catalogue;
using Sexton.Core.Invoicing;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Data;
using Sexton.Data.Invoices;
using Sexton.Data.Rows;
using Sexton.Data.Sealing;

namespace Sexton.Bench;

/// <summary>
/// Invoices issued by sixteen clients at once, each with its number, document, XML and a PDF of 35 kB, against the same rows and bytes written under numbers that each client makes up for itself.
/// </summary>
internal static class InvoiceBench
{
    private const int Clients = 16,
        PdfSize = 35_000;

    private static readonly KeyVault Vault = new(new byte[32]);
    private static long _next;

    private static int Each => Rounds.IsShort ? 1 : 15;

    public static async Task RunAsync(string connection, int rounds)
    {
        await PlacingBench.PlaceAsync(connection, 1, "invoice");
        await using var source = NpgsqlDataSource.Create(connection);
        await using var first = source.CreateCommand("select id from orders limit 1");
        var order = (Guid)(await first.ExecuteScalarAsync())!;
        var pdf = RandomNumberGenerator.GetBytes(PdfSize);
        await Rounds.TellAsync(
            string.Create(CultureInfo.InvariantCulture, $"Issuing invoices, {Clients} clients"),
            rounds,
            () =>
                Rounds.RunAsync(
                    Clients,
                    Each,
                    _ => IssueAsync(connection, order, pdf, static (db, _, lane) => NumberedByItselfAsync(db, lane))
                ),
            () =>
                Rounds.RunAsync(
                    Clients,
                    Each,
                    _ =>
                        IssueAsync(
                            connection,
                            order,
                            pdf,
                            static (_, book, lane) =>
                                book.TakeAsync(InvoiceDocumentKind.Invoice, lane, new DateOnly(2026, 11, 28), null, CancellationToken.None)
                        )
                ),
            "at least 0.67: no more than 1.5 times the time"
        );
        await using var gaps = source.CreateCommand("select max(number) - count(*) from invoices where kind = 0");
        Console.WriteLine($"  numbers that are missing or double: {await gaps.ExecuteScalarAsync()}");
    }

    private static async Task IssueAsync(
        string connection,
        Guid order,
        byte[] pdf,
        Func<SextonDb, InvoiceBook, LaneRow, Task<InvoiceRow>> number
    )
    {
        await using var db = new SextonDb(SextonDbFactory.Options(connection));
        var book = new InvoiceBook(db, Vault);
        var row = await number(db, book, Lane(order, Interlocked.Increment(ref _next)));
        await book.IssueAsync(row, 1, new byte[32], Document(row.Number), pdf, CancellationToken.None);
    }

    // As if each had a number of its own: the second kind counts nothing here.
    private static async Task<InvoiceRow> NumberedByItselfAsync(SextonDb db, LaneRow lane)
    {
        await db.Database.ExecuteSqlAsync(
            $"""
            insert into invoices (id, kind, number, order_id, lane_id, sequence, issued_on, credits, key)
            values ({Guid.CreateVersion7()}, 1, {lane.Id}, {lane.OrderId}, {lane.Id}, 1, {new DateOnly(2026, 11, 28)}, null, ''::bytea)
            """
        );
        return await db.Invoices.AsNoTracking().SingleAsync(i => i.LaneId == lane.Id && i.Sequence == 1);
    }

    private static LaneRow Lane(Guid order, long id) =>
        new()
        {
            Id = id,
            OrderId = order,
            Destination = "invoice",
            LineId = "",
            UnitId = "",
            Wanted = 1,
            Sequence = 1,
            State = DeliveryState.Sending,
            Tries = 1,
            NextTryAt = DateTimeOffset.UnixEpoch,
            Fence = 1,
            WasUncertain = false,
            Release = Release.Placed,
        };

    private static InvoiceDocument Document(long number) =>
        new()
        {
            Kind = InvoiceDocumentKind.Invoice,
            Number = number.ToString(CultureInfo.InvariantCulture),
            IssuedOn = new DateOnly(2026, 11, 28),
            Currency = "EUR",
            Order = "40690",
            Terms = "Paid with the order.",
            Seller = new InvoiceParty("Marrowby Gardens", new InvoiceAddress("IE", "Orchard Lane 1", "", "Aldmoor"), "IE0000264TA"),
            Buyer = new InvoiceParty("Odile Farrant", new InvoiceAddress("IE", "Quarry Lane 4", "", "Aldmoor"), ""),
            Amounts = new InvoiceAmounts(
                [
                    .. Enumerable
                        .Range(0, 5)
                        .Select(static i => new InvoiceLine("Zinc label " + i, "LA-ZINC-L", 2, 2764, TaxRate.Of(230_000))),
                ],
                [],
                [new InvoiceTax(TaxRate.Of(230_000), 13_820, 3_179, [TaxCategory.Standard])],
                16_999
            ),
            Reasons = ImmutableSortedDictionary<TaxCategory, string>.Empty,
        };
}
