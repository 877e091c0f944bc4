using Microsoft.EntityFrameworkCore;
using Sexton.Core.Orders;
using Sexton.Core.Plan;
using Sexton.Core.Projections;
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

/// <summary>Which maker a line goes to, as somebody says: it goes there and nowhere else, whatever the conditions of the makers say.</summary>
internal sealed class GivenLines(
    SextonDb db,
    LaneQueue queue,
    CurrentRegister current,
    LanePlanner planner,
    WorkSignal signal,
    TimeProvider clock
)
{
    /// <summary>Gives a line to a maker, or leaves it to their conditions again.</summary>
    /// <param name="order">The order.</param>
    /// <param name="line">The id of the line.</param>
    /// <param name="maker">The key of the maker; null to leave it to their conditions.</param>
    /// <param name="isCalledOff">Whether whoever has it already was told not to make it.</param>
    /// <param name="actor">Who says so.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task GiveAsync(StoredOrder order, string line, string? maker, bool isCalledOff, Actor actor, CancellationToken cancel)
    {
        if (!order.Content.Lines.Any(l => l.Id == line))
        {
            throw ApiProblemException.NotFound($"Order {order.Number} has no line “{line}”.");
        }

        var plan = (await current.GetAsync(cancel)).Version.Plan;
        if (maker is not null && plan.Destinations.Find(maker) is not { Kind.Makes: true, IsOn: true })
        {
            throw ApiProblemException.Unprocessable("no_maker", $"There is no maker “{maker}” in force. Choose one of those that are.");
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);

        // Of two who give it at once, the later sees what the earlier did.
        await db.Orders.FromSql($"select * from orders where id = {order.Id} for update").AsNoTracking().SingleAsync(cancel);
        await WriteAsync(order.Id, line, maker, actor, cancel);
        var given = await db.GivenLines.Where(g => g.OrderId == order.Id).ToDictionaryAsync(g => g.LineId, g => g.Destination, cancel);
        var content = order.Content with { GivenTo = order.Content.GivenTo.Clear().AddRange(given) };
        await MoveAsync(order, content, line, plan, isCalledOff, actor, cancel);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        signal.Raise();
    }

    private async Task WriteAsync(Guid order, string line, string? maker, Actor actor, CancellationToken cancel)
    {
        var row = await db.GivenLines.SingleOrDefaultAsync(g => g.OrderId == order && g.LineId == line, cancel);
        if (maker is null)
        {
            db.GivenLines.RemoveRange(row is null ? [] : [row]);
        }
        else if (row is null)
        {
            db.GivenLines.Add(
                new GivenLineRow
                {
                    OrderId = order,
                    LineId = line,
                    Destination = maker,
                    Account = actor.Id,
                    Name = actor.Name,
                    At = clock.GetUtcNow(),
                }
            );
        }
        else if (row.Destination != maker)
        {
            (row.Destination, row.Account, row.Name, row.At) = (maker, actor.Id, actor.Name, clock.GetUtcNow());
        }

        await db.SaveChangesAsync(cancel);
    }

    private async Task MoveAsync(
        StoredOrder order,
        OrderContent content,
        string line,
        RegisterPlan plan,
        bool isCalledOff,
        Actor actor,
        CancellationToken cancel
    )
    {
        var facts = new OrderFacts(content);
        var prepared = await db.PreparedLines.Where(p => p.OrderId == order.Id).Select(p => p.LineId).ToHashSetAsync(cancel);
        var lanes = await db
            .Lanes.FromSql($"select * from lanes where order_id = {order.Id} and line_id = {line} order by id for update")
            .ToListAsync(cancel);
        foreach (var to in plan.Destinations.All.Where(static d => d.Kind is { Makes: true, IsDelivered: true }))
        {
            var part = new OrderPart(line, "");
            var (goes, lane) = (OrderParts.Of(facts, to).Contains(part), lanes.Find(l => l.Destination == to.Key));
            if (goes && lane is null)
            {
                db.Lanes.Add(Beginning(order.Id, to, part, planner.NotBefore(content, facts, to, part, prepared)));
            }
            else if (goes && lane is { State: DeliveryState.Withdrawn })
            {
                lane.State = DeliveryState.Waiting;
                await queue.WantAsync(lane, order.Revision, replaces: true, clock.GetUtcNow(), cancel);
                lane.WaitFor(planner.NotBefore(content, facts, to, part, prepared), clock.GetUtcNow());
            }
            else if (!goes && lane is not null && lane.State != DeliveryState.Withdrawn)
            {
                Withdraw(lane, to, isCalledOff, actor);
            }
        }
    }

    private void Withdraw(LaneRow lane, BoundDestination from, bool isCalledOff, Actor actor)
    {
        if (lane.State == DeliveryState.Sending)
        {
            throw ApiProblemException.Conflict(
                "being_sent",
                $"It is being sent to {from.Phrase} at this moment. Try again when that is over."
            );
        }

        if (lane.Receipt is not null && !isCalledOff)
        {
            throw ApiProblemException.Conflict(
                "taken_there",
                $"It stands as {lane.Receipt} in {from.Phrase}. Tell them not to make it, and say here that you did."
            );
        }

        (lane.State, lane.SettledAt, lane.MissingCode, lane.ToldAt) = (DeliveryState.Withdrawn, clock.GetUtcNow(), null, null);
        db.Tries.Add(
            new TryRow
            {
                LaneId = lane.Id,
                Sequence = lane.Sequence,
                At = clock.GetUtcNow(),
                Outcome = DeliveryState.Withdrawn,
                Detail = lane.Receipt is null
                    ? $"{actor.Name} gave the line to another."
                    : $"{actor.Name} gave the line to another, and said that {lane.Receipt} was called off.",
            }
        );
    }

    private LaneRow Beginning(Guid order, BoundDestination to, OrderPart part, DateTimeOffset? notBefore) =>
        new()
        {
            OrderId = order,
            Destination = to.Key,
            LineId = part.LineId,
            UnitId = part.UnitId,
            Wanted = 1,
            Sequence = 1,
            State = notBefore is null ? DeliveryState.Waiting : DeliveryState.NotReleased,
            Tries = 0,
            NextTryAt = notBefore ?? clock.GetUtcNow(),
            Fence = 0,
            WasUncertain = false,
            Release = to.Plain.Release,
        };
}
