using System.Collections.Immutable;
using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Orders;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Data;
using Sexton.Data.Invoices;
using Sexton.Data.Queue;
using Sexton.Data.Rows;
using Sexton.Destinations;
using Sexton.Destinations.Invoices;
using Sexton.Destinations.Papers;
using Sexton.Server.Orders;

namespace Sexton.Server.Papers;

/// <summary>A paper of an order, as it stands.</summary>
/// <param name="Lane">The lane along which it goes.</param>
/// <param name="Title">What people call it.</param>
/// <param name="FileName">Under which name it is saved.</param>
/// <param name="File">The PDF; null while it is not printed, or not kept any more.</param>
internal sealed record PrintedPaper(LaneRow Lane, string Title, string FileName, byte[]? File);

/// <summary>Finds the papers of an order, with the file where it is the newest that is wanted.</summary>
internal sealed class PrintedPapers(SextonDb db, OrderReader orders, InvoiceBook book)
{
    /// <summary>The lanes along which papers of an order go, in the order of their destinations and of its lines and units.</summary>
    /// <param name="order">The order.</param>
    /// <param name="destinations">The destinations of the papers.</param>
    /// <param name="within">The part of the order in which each of them must lie.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<IReadOnlyList<LaneRow>> LanesAsync(
        StoredOrder order,
        ImmutableArray<BoundDestination> destinations,
        OrderPart within,
        CancellationToken cancel
    )
    {
        var keys = destinations.Select(static d => d.Key).ToArray();
        var lanes = await db.Lanes.AsNoTracking().Where(l => l.OrderId == order.Id && keys.Contains(l.Destination)).ToListAsync(cancel);
        return
        [
            .. lanes
                .Where(l => within.Contains(l.Part))
                .OrderBy(l => Array.IndexOf(keys, l.Destination))
                .ThenBy(l => order.Content.PlaceOf(l.Part)),
        ];
    }

    /// <summary>What a message that carries the paper of a lane does about it.</summary>
    public static PaperToCarry ToCarry(LaneRow lane) => CarryingRule.Of(lane.State, lane.Sequence, lane.Wanted);

    /// <summary>One paper of an order.</summary>
    /// <param name="order">The order.</param>
    /// <param name="lane">The lane along which it goes.</param>
    /// <param name="to">Its destination.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<PrintedPaper> ReadAsync(StoredOrder order, LaneRow lane, BoundDestination to, CancellationToken cancel)
    {
        var isPrinted = ToCarry(lane) == PaperToCarry.Ready;
        var payload = isPrinted
            ? await db.Payloads.AsNoTracking().SingleOrDefaultAsync(p => p.LaneId == lane.Id && p.Sequence == lane.Sequence, cancel)
            : null;
        var projection = payload is { Projection.Length: > 0 }
            ? StoredPayload.OpenProjection(payload.Projection, await orders.AnswersAsync(order, payload.Revision, cancel), order.OpenKey)
            : new Projection([]);
        var issued =
            to.Kind is InvoicePaperKind ? (await book.OfOrderAsync(order.Id, cancel)).LastOrDefault(i => i.LaneId == lane.Id) : null;
        var sent = new SentOrder(order.Id, order.Number, order.PlacedAt, order.Content, projection, to)
        {
            Part = lane.Part,
            Lines = [.. order.Content.Lines.Where(l => lane.Part.Has(l.Id, null))],
            Issued = issued is null ? null : new IssuedNumber(issued.Number.ToString(CultureInfo.InvariantCulture), issued.IssuedOn, null),
        };
        return new PrintedPaper(
            lane,
            PaperKind.TitleOf(sent),
            issued is null ? sent.FileNameAs("pdf") : InvoiceFiles.NameOf(issued, "pdf"),
            payload?.Artefact is { } artefact ? StoredPayload.OpenArtefact(artefact, order.OpenKey) : null
        );
    }
}
