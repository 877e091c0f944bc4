using Microsoft.EntityFrameworkCore;
using Sexton.Core.Trail;
using Sexton.Data.Rows;

namespace Sexton.Data.Queue;

/// <summary>Which lanes want somebody, and what lets them go again.</summary>
public static class LanesInTrouble
{
    /// <summary>The lanes whose payload was refused or given up.</summary>
    /// <param name="db">The database.</param>
    public static IQueryable<LaneRow> Stuck(this SextonDb db) =>
        db.Lanes.Where(static l => l.State == DeliveryState.Refused || l.State == DeliveryState.NeedsAttention);

    /// <summary>
    /// What is altered or missing of what a lane sent last: what was found of payloads before counts no more, nor what somebody settled or withdrew.
    /// </summary>
    /// <param name="db">The database.</param>
    public static IQueryable<AmissAnswer> Amiss(this SextonDb db) =>
        from finding in db.Findings
        join lane in db.Lanes on new { Id = finding.LaneId, finding.Sequence } equals new { lane.Id, lane.Sequence }
        where
            (finding.Finding == Finding.Altered || finding.Finding == Finding.Missing)
            && lane.State != DeliveryState.SettledByHand
            && lane.State != DeliveryState.Withdrawn
        select new AmissAnswer
        {
            LaneId = lane.Id,
            OrderId = lane.OrderId,
            Destination = lane.Destination,
            Slot = finding.Slot,
        };

    /// <summary>Lets lanes go again at once, as if nothing had held them.</summary>
    /// <param name="lanes">The lanes.</param>
    /// <param name="now">The time.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>How many.</returns>
    public static Task<int> GoAgainAsync(this IQueryable<LaneRow> lanes, DateTimeOffset now, CancellationToken cancel) =>
        lanes.ExecuteUpdateAsync(
            set =>
                set.SetProperty(l => l.State, DeliveryState.Waiting)
                    .SetProperty(l => l.NextTryAt, now)
                    .SetProperty(l => l.HeldUntil, l => l.HeldUntil == null ? null : now)
                    .SetProperty(l => l.SettledAt, (DateTimeOffset?)null)
                    .SetProperty(l => l.MissingCode, (string?)null)
                    .SetProperty(l => l.ToldAt, (DateTimeOffset?)null),
            cancel
        );
}

/// <summary>An answer that is altered or missing somewhere.</summary>
public sealed class AmissAnswer
{
    /// <summary>The lane along which it went.</summary>
    public required long LaneId { get; init; }

    /// <summary>The order.</summary>
    public required Guid OrderId { get; init; }

    /// <summary>Where.</summary>
    public required string Destination { get; init; }

    /// <summary>The slot of the answer.</summary>
    public required string Slot { get; init; }
}
