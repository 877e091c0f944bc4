using Sexton.Core.Plan;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Data.Queue;
using Sexton.Data.Rows;
using Sexton.Data.Sealing;
using Sexton.Destinations;
using Sexton.Destinations.Events;
using Sexton.Server.Files;
using Sexton.Server.Makers;
using Sexton.Server.Orders;

namespace Sexton.Server.Deliveries;

/// <summary>An order on its way.</summary>
/// <param name="Order">What goes.</param>
/// <param name="Stored">The order that it is of.</param>
/// <param name="Revision">The revision that it is of.</param>
/// <param name="IsUnread">Whether it was taken before and only has to be read back.</param>
internal sealed record Sending(SentOrder Order, StoredOrder Stored, int Revision, bool IsUnread)
{
    /// <summary>The key that it is kept under.</summary>
    public DataKey Key => Stored.OpenKey;
}

/// <summary>Puts together what goes along a lane, and reads back what came of it.</summary>
internal sealed class Sendings(
    LaneQueue queue,
    OrderReader orders,
    ItemCodesThere codes,
    InvoiceIssuer invoices,
    OrderPictures pictures,
    ILogger<Sendings> log
)
{
    /// <summary>Puts together what goes along a lane.</summary>
    /// <param name="claimed">The lane.</param>
    /// <param name="plan">The current version of the register.</param>
    /// <param name="destination">The destination.</param>
    public async Task<Sending> PrepareAsync(LaneRow claimed, RegisterPlan plan, BoundDestination destination)
    {
        // What takes an invoice back is of the order as it was then, and so is what tells an event.
        var payload = await queue.PayloadAsync(claimed, CancellationToken.None);
        var revision =
            destination.Kind.FollowsAnother ? (await invoices.CreditedAsync(claimed))?.Revision
            : payload?.Event is null ? null
            : payload.Revision;
        var order = revision is { } then
            ? (await orders.FindAsync(claimed.OrderId, then, CancellationToken.None))!
            : (await orders.FindAsync(claimed.OrderId, CancellationToken.None))!;

        // What was taken is read back as it was sent, whatever the routes say since.
        var isUnread = claimed.Receipt is not null && payload is { Artefact: null, Projection.Length: > 0 };
        var projection = isUnread
            ? StoredPayload.OpenProjection(
                payload!.Projection,
                await orders.AnswersAsync(order, payload.Revision, CancellationToken.None),
                order.OpenKey
            )
            : order.ProjectedOn(plan, claimed.Destination, claimed.Part);
        return new Sending(
            await codes.FillInAsync(
                new SentOrder(order.Id, order.Number, order.PlacedAt, order.Content, projection, destination)
                {
                    Pictures = await pictures.OfAsync(order.Id, projection, destination, CancellationToken.None),
                    Told = payload?.Event is { } what ? new ToldEvent(what, payload.About, payload.HappenedAt!.Value) : null,
                }.Along(plan, order.Own, claimed.Part),
                CancellationToken.None
            ),
            order,
            isUnread ? payload!.Revision : order.Revision,
            isUnread
        );
    }

    /// <summary>What is found of an order in what a destination has. A reader that fails proves nothing, and says so of every answer.</summary>
    /// <param name="kind">The kind of the destination.</param>
    /// <param name="artefact">What it has.</param>
    /// <param name="sent">The order as it was sent.</param>
    public List<SlotFinding> ReadBack(DeliveredKind kind, byte[] artefact, SentOrder sent)
    {
        try
        {
            return [.. kind.ReadBack(artefact, sent)];
        }
        catch (Exception e)
        {
            log.LogError(e, "What {Destination} has of {Order} could not be read", sent.To.Key, sent.Id);
            return
            [
                .. sent.Projection.Entries.Select(static entry => new SlotFinding(
                    entry.Slot.ToString(),
                    "unread",
                    entry.Proof,
                    null,
                    Finding.NotProvable
                )),
            ];
        }
    }
}
