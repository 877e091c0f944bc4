using Microsoft.EntityFrameworkCore;
using Sexton.Core.Orders;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Data;
using Sexton.Data.Queue;
using Sexton.Server.Orders;
using Sexton.Server.Versions;

namespace Sexton.Server.Deliveries;

/// <summary>
/// What a new revision of an order does to its lanes: what was not sent goes as it is by then, and at the time that follows from it; what was sent goes again where the
/// destination wants it again.
/// </summary>
internal sealed class RevisedLanes(
    SextonDb db,
    LaneQueue queue,
    OrderReader orders,
    CurrentRegister current,
    LanePlanner planner,
    TimeProvider clock
)
{
    /// <summary>Brings the lanes of an order up to its revision. Called within the transaction that makes the revision, when its rows are there.</summary>
    /// <param name="id">The id of the order.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task FollowAsync(Guid id, CancellationToken cancel)
    {
        var order = (await orders.FindAsync(id, cancel))!;
        var (version, _) = await current.GetAsync(cancel);
        var prepared = await db.PreparedLines.Where(p => p.OrderId == id).Select(p => p.LineId).ToHashSetAsync(cancel);
        var facts = new OrderFacts(order.Content);
        foreach (
            var lane in await db.Lanes.FromSql($"select * from lanes where order_id = {id} order by id for update").ToListAsync(cancel)
        )
        {
            if (
                lane.State == DeliveryState.Withdrawn
                || version.Plan.Destinations.Find(lane.Destination) is not { Kind: { FollowsAnother: false, TellsEvents: false } } to
            )
            {
                continue;
            }

            if (lane is { Tries: 0, Sequence: 1, State: DeliveryState.Waiting or DeliveryState.NotReleased })
            {
                lane.WaitFor(planner.NotBefore(order.Content, facts, to, lane.Part, prepared), clock.GetUtcNow());
            }
            else if (!to.Plain.OnlyOnce)
            {
                await queue.WantAsync(lane, order.Revision, to.Kind.ReplacesUnsent, clock.GetUtcNow(), cancel);
            }
        }

        await db.SaveChangesAsync(cancel);
        await queue.TellAsync(
            id,
            version.Plan.Destinations.Told(OrderEvent.Corrected),
            new WantedEvent(OrderEvent.Corrected),
            clock.GetUtcNow(),
            cancel
        );
    }
}
