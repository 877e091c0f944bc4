using Microsoft.EntityFrameworkCore;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Data;

namespace Sexton.Server.Deliveries;

/// <summary>How long orders of seven days took until each destination had them: of what nothing held back.</summary>
internal sealed class DeliveryTimes(SextonDb db, TimeProvider clock)
{
    private static readonly TimeSpan Span = TimeSpan.FromDays(7);

    /// <summary>Median and slowest time of each destination that got something.</summary>
    public async Task<IReadOnlyList<DeliveryTimeView>> ReadAsync(CancellationToken cancel)
    {
        var since = clock.GetUtcNow() - Span;
        return await db
            .Database.SqlQuery<DeliveryTimeView>(
                $"""
                select l.destination,
                    (percentile_cont(0.5) within group (order by extract(epoch from l.settled_at - o.placed_at)))::float8 as median_seconds,
                    max(extract(epoch from l.settled_at - o.placed_at))::float8 as slowest_seconds,
                    count(*)::int as count
                from lanes l join orders o on o.id = l.order_id
                where l.settled_at > {since} and o.placed_at > {since} and l.state = {(short)DeliveryState.Sent} and l.sequence = 1
                  and l.held_until is null and l.release not in ({(short)Release.Prepared}, {(short)Release.Day})
                group by l.destination
                """
            )
            .ToListAsync(cancel);
    }
}

/// <summary>How long orders took until a destination had them.</summary>
/// <param name="Destination">The key of the destination.</param>
/// <param name="MedianSeconds">The median, in seconds.</param>
/// <param name="SlowestSeconds">The slowest, in seconds.</param>
/// <param name="Count">How many.</param>
internal sealed record DeliveryTimeView(string Destination, double MedianSeconds, double SlowestSeconds, int Count);
