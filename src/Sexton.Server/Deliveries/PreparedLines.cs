using Microsoft.EntityFrameworkCore;
using Sexton.Core.Orders;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Data;
using Sexton.Data.Queue;
using Sexton.Data.Rows;
using Sexton.Server.Accounts;
using Sexton.Server.Common;
using Sexton.Server.Orders;
using Sexton.Server.Versions;

namespace Sexton.Server.Deliveries;

/// <summary>What somebody says to be prepared, and the lanes that wait for it.</summary>
internal sealed class PreparedLines(
    SextonDb db,
    LaneQueue queue,
    CurrentRegister current,
    LanePlanner planner,
    WorkSignal signal,
    TimeProvider clock
)
{
    /// <summary>Says that a line is prepared, or not after all: what waits for it goes, or waits again where it has not gone yet.</summary>
    /// <param name="order">The order.</param>
    /// <param name="line">The id of the line.</param>
    /// <param name="isPrepared">Whether it is prepared.</param>
    /// <param name="actor">Who says so.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task SayAsync(StoredOrder order, string line, bool isPrepared, Actor actor, CancellationToken cancel)
    {
        if (!order.Content.Lines.Any(l => l.Id == line))
        {
            throw ApiProblemException.NotFound($"Order {order.Number} has no line “{line}”.");
        }

        var (version, _) = await current.GetAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);

        // Of two who say so of two lines at once, the later sees what the earlier said.
        await db.Orders.FromSql($"select * from orders where id = {order.Id} for update").AsNoTracking().SingleAsync(cancel);
        if (!await WriteAsync(order.Id, line, isPrepared, actor, cancel))
        {
            return;
        }

        var prepared = await db.PreparedLines.Where(p => p.OrderId == order.Id).Select(p => p.LineId).ToHashSetAsync(cancel);
        var facts = new OrderFacts(order.Content);
        foreach (var lane in await UnsentAsync(order.Id, cancel))
        {
            // One that is gone from the register holds nothing back: its try says what is wrong.
            var notBefore = version.Plan.Destinations.Find(lane.Destination) is { } to
                ? planner.NotBefore(order.Content, facts, to, lane.Part, prepared)
                : null;
            lane.WaitFor(notBefore, clock.GetUtcNow());
        }

        await db.SaveChangesAsync(cancel);
        var told = version.Plan.Destinations.Told(OrderEvent.Prepared);
        var what = isPrepared ? OrderEvent.Prepared : OrderEvent.PreparationTakenBack;
        await queue.TellAsync(order.Id, told, new WantedEvent(what, line), clock.GetUtcNow(), cancel);
        await transaction.CommitAsync(cancel);
        signal.Raise();
    }

    // Whether that is new.
    private async Task<bool> WriteAsync(Guid order, string line, bool isPrepared, Actor actor, CancellationToken cancel)
    {
        var before = await db.PreparedLines.SingleOrDefaultAsync(p => p.OrderId == order && p.LineId == line, cancel);
        if (isPrepared && before is null)
        {
            db.PreparedLines.Add(
                new PreparedLineRow
                {
                    OrderId = order,
                    LineId = line,
                    Account = actor.Id,
                    Name = actor.Name,
                    At = clock.GetUtcNow(),
                }
            );
        }
        else if (!isPrepared && before is not null)
        {
            db.PreparedLines.Remove(before);
        }

        return await db.SaveChangesAsync(cancel) > 0;
    }

    // Those of which nothing was tried. All of the order are locked, in the turn in which they are locked everywhere.
    private async Task<List<LaneRow>> UnsentAsync(Guid order, CancellationToken cancel) =>
        (await db.Lanes.FromSql($"select * from lanes where order_id = {order} order by id for update").ToListAsync(cancel)).FindAll(
            static l => l is { Release: Release.Prepared, Tries: 0, State: DeliveryState.Waiting or DeliveryState.NotReleased }
        );
}
