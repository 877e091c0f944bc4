using Sexton.Core.Orders;
using Sexton.Core.Plan;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Data.Placing;
using Sexton.Data.Rows;
using Sexton.Server.Common;

namespace Sexton.Server.Deliveries;

/// <summary>Says along which lanes an order goes, and from when on.</summary>
internal sealed class LanePlanner(ShopClock shop, TimeProvider clock)
{
    // An order is charged before it is placed, or not at all, and nothing holds its lines yet.
    private static readonly OrderEvent[] HappensWhenPlaced = [OrderEvent.Placed, OrderEvent.Paid, OrderEvent.Approved];

    private static readonly HashSet<string> NothingPrepared = [];

    /// <summary>The lanes of an order that is placed now.</summary>
    /// <param name="order">The order.</param>
    /// <param name="current">The current version of the register.</param>
    public IReadOnlyList<LaneBeginning> Of(OrderContent order, RegisterPlan current)
    {
        var facts = new OrderFacts(order);
        return
        [
            .. current
                .Destinations.All.Where(static d => d.Kind is { IsDelivered: true, FollowsAnother: false })
                .SelectMany(d =>
                    OrderParts
                        .Of(facts, d)
                        .Select(part =>
                            d.Kind.TellsEvents
                                ? Told(d, part)
                                : new LaneBeginning(d.Key, part, d.Plain.Release, NotBefore(order, facts, d, part, NothingPrepared))
                        )
                ),
        ];
    }

    private static LaneBeginning Told(BoundDestination to, OrderPart part)
    {
        var events = HappensWhenPlaced.Where(e => to.Events.Contains(e)).ToList();
        return new LaneBeginning(to.Key, part, Release.Placed, events.Count == 0 ? LaneRow.Held : null) { Events = events };
    }

    /// <summary>From when on a part of an order may go to a destination; null for at once.</summary>
    /// <param name="order">The order.</param>
    /// <param name="facts">Its facts and answers.</param>
    /// <param name="to">The destination.</param>
    /// <param name="part">The part.</param>
    /// <param name="prepared">The ids of the lines that somebody prepared.</param>
    public DateTimeOffset? NotBefore(
        OrderContent order,
        OrderFacts facts,
        BoundDestination to,
        OrderPart part,
        IReadOnlySet<string> prepared
    )
    {
        var (point, now) = (ReleasePoint.Of(order, facts, to, part, prepared), clock.GetUtcNow());
        DateTimeOffset? released =
            point.IsHeld ? LaneRow.Held
            : point.Day is { } day && shop.MorningOf(day) is var morning && morning > now ? morning
            : null;
        return to.Kind.GathersAt(to.Settings) is { } hour && released != LaneRow.Held ? shop.Next(hour, released ?? now) : released;
    }
}
