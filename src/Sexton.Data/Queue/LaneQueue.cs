using Microsoft.EntityFrameworkCore;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Data.Rows;

namespace Sexton.Data.Queue;

/// <summary>
/// Claims due lanes for a worker. A claim is a lease with a fencing token; no lock is held while the worker is at the network,
/// and what a dead worker had is claimed again when its lease is over.
/// </summary>
public sealed class LaneQueue(SextonDb db)
{
    /// <summary>Claims lanes to a destination that are due, the longest due first.</summary>
    /// <param name="destination">The key of the destination.</param>
    /// <param name="most">The greatest number to claim.</param>
    /// <param name="lease">How long they are the worker's.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<IReadOnlyList<LaneRow>> ClaimAsync(string destination, int most, TimeSpan lease, CancellationToken cancel) =>
        await db
            .Lanes.FromSql(
                $"""
                update lanes l
                set state = {(short)
                    DeliveryState.Sending}, lease_until = clock_timestamp() + {lease}, fence = l.fence + 1, tries = l.tries + 1
                from (
                    select id from lanes
                    where destination = {destination} and settled_at is null
                      and not exists (select 1 from paused_destinations p where p.destination = {destination})
                      and case when state = {(short)
                    DeliveryState.Sending} then lease_until < clock_timestamp() else next_try_at <= clock_timestamp() end
                    order by next_try_at
                    limit {most}
                    for update skip locked
                ) due
                where l.id = due.id
                returning l.*
                """
            )
            .AsNoTracking()
            .ToListAsync(cancel);

    /// <summary>The payload that a lane has in flight or had last; null before its first try ended.</summary>
    public Task<PayloadRow?> PayloadAsync(LaneRow lane, CancellationToken cancel) =>
        db.Payloads.AsNoTracking().FirstOrDefaultAsync(p => p.LaneId == lane.Id && p.Sequence == lane.Sequence, cancel);

    /// <summary>
    /// Marks that the bytes are about to be handed over to a receiver that cannot tell doubles apart.
    /// </summary>
    /// <returns>False when the worker was overtaken and must not send.</returns>
    public async Task<bool> MarkHandingOverAsync(LaneRow claimed, DateTimeOffset now, CancellationToken cancel) =>
        await Mine(claimed).ExecuteUpdateAsync(set => set.SetProperty(l => l.HandedOverAt, now), cancel) == 1;

    /// <summary>
    /// Puts on record that a worker died while handing over, so that it is uncertain whether the message was taken.
    /// Done before another copy is sent.
    /// </summary>
    /// <returns>False when the worker was overtaken and must not send.</returns>
    public async Task<bool> MarkUncertainAsync(LaneRow claimed, TryRow lost, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var written = await Mine(claimed)
            .ExecuteUpdateAsync(
                set => set.SetProperty(l => l.WasUncertain, true).SetProperty(l => l.HandedOverAt, (DateTimeOffset?)null),
                cancel
            );
        if (written == 1)
        {
            db.Tries.Add(lost);
            await db.SaveChangesAsync(cancel);
            await transaction.CommitAsync(cancel);
            db.ChangeTracker.Clear();
        }

        return written == 1;
    }

    /// <summary>Lets a message wait for the papers that it carries. That is no try of it, and put on record once.</summary>
    /// <param name="claimed">The lane.</param>
    /// <param name="until">Until when.</param>
    /// <param name="begins">What is put on record.</param>
    /// <param name="isStillAwaited">Whether one is still to come, asked once nobody else can settle one unseen.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>False when it is to look again at once, since the last one came meanwhile.</returns>
    public async Task<bool> HoldAsync(
        LaneRow claimed,
        DateTimeOffset until,
        TryRow begins,
        Func<Task<bool>> isStillAwaited,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var written = await Mine(claimed)
            .ExecuteUpdateAsync(
                set =>
                    set.SetProperty(l => l.State, DeliveryState.Waiting)
                        .SetProperty(l => l.NextTryAt, until)
                        .SetProperty(l => l.HeldUntil, until)
                        .SetProperty(l => l.LeaseUntil, (DateTimeOffset?)null)
                        .SetProperty(l => l.Tries, claimed.Tries - 1),
                cancel
            );
        if (written == 1 && claimed.HeldUntil is null)
        {
            db.Tries.Add(begins);
            await db.SaveChangesAsync(cancel);
        }

        // The lane is locked: whatever settles a paper from here on waits, and finds it held.
        var waits = written == 0 || await isStillAwaited();
        if (!waits)
        {
            await db.Lanes.Where(l => l.Id == claimed.Id).ExecuteUpdateAsync(set => set.SetProperty(l => l.NextTryAt, begins.At), cancel);
        }

        await transaction.CommitAsync(cancel);
        db.ChangeTracker.Clear();
        return waits;
    }

    /// <summary>Writes how a try ended.</summary>
    /// <param name="end">How.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>False when the worker was overtaken.</returns>
    public async Task<bool> SettleAsync(Settlement end, CancellationToken cancel) => (await SettleAsync([end], cancel)).Count == 1;

    /// <summary>
    /// Writes how tries ended, of all or none: the lanes, the tries, the payloads, and what differs in them. Where all of a lane is settled and another payload is wanted, it
    /// goes on to that one. Nothing is written of a lane whose worker was overtaken.
    /// </summary>
    /// <param name="ends">How each ended; all to one destination.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>Those that were written.</returns>
    public async Task<IReadOnlyList<Settlement>> SettleAsync(IReadOnlyList<Settlement> ends, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var (ids, orders) = (ends.Select(static e => e.Claimed.Id).ToArray(), ends.Select(static e => e.Claimed.OrderId).ToArray());
        var (told, carriers) = (ends[0].Told, ends[0].Carriers);

        // What is wanted may have changed while the worker was away. All that is locked of orders is locked in the same turn everywhere.
        var locked = await db
            .Lanes.FromSql(
                $"""
                select * from lanes
                where id = any({ids}) or (order_id = any({orders}) and (destination = any({told}) or destination = any({carriers})))
                order by id for update
                """
            )
            .ToListAsync(cancel);
        var held = locked.ToDictionary(static l => l.Id);
        var listening = locked.Where(l => told.Contains(l.Destination)).ToLookup(static l => l.OrderId);
        var carrying = locked.Where(l => carriers.Contains(l.Destination)).ToLookup(static l => l.OrderId);
        var written = ends.Where(e =>
                held.TryGetValue(e.Claimed.Id, out var lane) && lane.Fence == e.Claimed.Fence && lane.State == DeliveryState.Sending
            )
            .ToList();
        foreach (var end in written)
        {
            await WriteAsync(held[end.Claimed.Id], end, [.. listening[end.Claimed.OrderId]], cancel);
            foreach (var carrier in carrying[end.Claimed.OrderId])
            {
                LookAgain(carrier, end.Attempt.At);
            }
        }

        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        db.ChangeTracker.Clear();
        return written;
    }

    /// <summary>
    /// Wants a payload of a revision along a lane. Called within the transaction that makes the revision, when the lane is locked in it: one that was read before says
    /// how it stood then, and what was settled meanwhile would go on no more.
    /// </summary>
    /// <param name="lane">The lane, locked and read since.</param>
    /// <param name="revision">The revision.</param>
    /// <param name="replaces">Whether a newer payload replaces one that was not sent.</param>
    /// <param name="now">The time.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task WantAsync(LaneRow lane, int revision, bool replaces, DateTimeOffset now, CancellationToken cancel)
    {
        Want(lane, revision, replaces, null, now);
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>
    /// Wants an event of an order told to some destinations, each in its turn. Called within the transaction in which it happens, and where several lanes of the
    /// order are locked, when all of them are.
    /// </summary>
    /// <param name="order">The order.</param>
    /// <param name="told">The keys of the destinations that are told; those along which the order does not go are left out.</param>
    /// <param name="what">What happened.</param>
    /// <param name="now">The time.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task TellAsync(Guid order, string[] told, WantedEvent what, DateTimeOffset now, CancellationToken cancel)
    {
        if (told.Length == 0)
        {
            return;
        }

        var lanes = await db
            .Lanes.FromSql($"select * from lanes where order_id = {order} and destination = any({told}) order by id for update")
            .ToListAsync(cancel);
        var revision = await RevisionAsync(order, cancel);
        lanes.ForEach(lane => Want(lane, revision, what, now));
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Forgets what was to be written and could not be.</summary>
    public void Forget() => db.ChangeTracker.Clear();

    private async Task WriteAsync(LaneRow held, Settlement end, IReadOnlyList<LaneRow> listeners, CancellationToken cancel)
    {
        var claimed = end.Claimed;
        db.Tries.Add(end.Attempt);
        if (end.Payload is not null)
        {
            await WriteAsync(end.Payload, end.Findings, cancel);
        }

        (held.State, held.NextTryAt, held.LeaseUntil, held.SettledAt) = (claimed.State, claimed.NextTryAt, null, claimed.SettledAt);
        held.MissingCode = claimed.MissingCode;
        (held.HandedOverAt, held.WasUncertain, held.Receipt) = (claimed.HandedOverAt, claimed.WasUncertain, claimed.Receipt);
        if (listeners.Count > 0)
        {
            var arrived = new WantedEvent(OrderEvent.Arrived, $"{claimed.Destination}{claimed.Part}");
            var revision = await RevisionAsync(claimed.OrderId, cancel);
            foreach (var listener in listeners)
            {
                Want(listener, revision, arrived, end.Attempt.At);
            }
        }

        if (held.SettledAt is not null && LaneTransitions.GoesOn(held.State, end.Replaces))
        {
            GoOn(held, end.Replaces, end.Attempt.At);
        }
    }

    // What waits for its papers looks whether the one that came was the last.
    private static void LookAgain(LaneRow carrier, DateTimeOffset now)
    {
        if (carrier is { State: DeliveryState.Waiting, HeldUntil: not null } && carrier.NextTryAt > now)
        {
            carrier.NextTryAt = now;
        }
    }

    private Task<int> RevisionAsync(Guid order, CancellationToken cancel) =>
        db.Orders.Where(o => o.Id == order).Select(static o => o.Revision).SingleAsync(cancel);

    // None is left out and none comes before another; along a lane that was withdrawn nothing goes.
    private void Want(LaneRow lane, int revision, WantedEvent what, DateTimeOffset now)
    {
        if (lane.State != DeliveryState.Withdrawn)
        {
            Want(lane, revision, replaces: false, what, now);
        }
    }

    private void Want(LaneRow lane, int revision, bool replaces, WantedEvent? what, DateTimeOffset now)
    {
        lane.Wanted++;
        db.Payloads.Add(
            new PayloadRow
            {
                LaneId = lane.Id,
                Sequence = lane.Wanted,
                Revision = revision,
                Projection = [],
                Agreed = Finding.None,
                AgreedCount = 0,
                At = now,
                Event = what?.What,
                About = what?.About,
                HappenedAt = what is null ? null : now,
            }
        );
        var isUnsent = lane is { State: DeliveryState.Waiting, WasUncertain: false, HandedOverAt: null, Receipt: null };
        if (lane.Sequence == 0 || (lane.SettledAt is null ? replaces && isUnsent : LaneTransitions.GoesOn(lane.State, replaces)))
        {
            GoOn(lane, replaces, now);
        }
    }

    private async Task WriteAsync(PayloadRow payload, IReadOnlyList<FindingRow> findings, CancellationToken cancel)
    {
        await db.Database.ExecuteSqlAsync(
            $"""
            insert into payloads (lane_id, sequence, revision, projection, hash, artefact, agreed, agreed_count, at)
            values ({payload.LaneId}, {payload.Sequence}, {payload.Revision}, {payload.Projection}, {payload.Hash}, {payload.Artefact}, {(short)
                payload.Agreed}, {payload.AgreedCount}, {payload.At})
            on conflict (lane_id, sequence) do update
            set projection = excluded.projection, hash = excluded.hash, artefact = excluded.artefact, agreed = excluded.agreed,
                agreed_count = excluded.agreed_count, at = excluded.at
            """,
            cancel
        );
        await db.Findings.Where(f => f.LaneId == payload.LaneId && f.Sequence == payload.Sequence).ExecuteDeleteAsync(cancel);
        db.Findings.AddRange(findings);
    }

    /// <summary>Lets a lane whose payload is settled go on to the one that follows; nothing where none is wanted.</summary>
    /// <param name="lane">The lane.</param>
    /// <param name="replaces">Whether a newer payload replaces one that was not sent.</param>
    /// <param name="now">The time.</param>
    public static void GoOn(LaneRow lane, bool replaces, DateTimeOffset now)
    {
        var next = LaneTransitions.Next(lane.Sequence, lane.Wanted, replaces);
        if (next > lane.Sequence)
        {
            (lane.Sequence, lane.State, lane.Tries, lane.NextTryAt) = (next, DeliveryState.Waiting, 0, now);
            (lane.WasUncertain, lane.HandedOverAt, lane.Receipt, lane.SettledAt) = (false, null, null, null);
            (lane.MissingCode, lane.ToldAt, lane.HeldUntil) = (null, null, null);
        }
    }

    private IQueryable<LaneRow> Mine(LaneRow claimed) =>
        db.Lanes.Where(l => l.Id == claimed.Id && l.Fence == claimed.Fence && l.State == DeliveryState.Sending);
}
