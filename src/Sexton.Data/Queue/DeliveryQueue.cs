using Microsoft.EntityFrameworkCore;
using Sexton.Core.Trail;
using Sexton.Data.Rows;

namespace Sexton.Data.Queue;

/// <summary>
/// Claims due deliveries for a worker. A claim is a lease with a fencing token; no lock is held while the worker is at the network,
/// and what a dead worker had is claimed again when its lease is over.
/// </summary>
public sealed class DeliveryQueue(SextonDb db)
{
    /// <summary>Claims deliveries to a destination that are due, the longest due first.</summary>
    /// <param name="destination">The key of the destination.</param>
    /// <param name="most">The greatest number to claim.</param>
    /// <param name="lease">How long they are the worker's.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<IReadOnlyList<DeliveryRow>> ClaimAsync(string destination, int most, TimeSpan lease, CancellationToken cancel) =>
        await db
            .Deliveries.FromSql(
                $"""
                update deliveries d
                set state = {(short)
                    DeliveryState.Sending}, lease_until = clock_timestamp() + {lease}, fence = d.fence + 1, tries = d.tries + 1
                from (
                    select order_id, destination from deliveries
                    where destination = {destination} and settled_at is null
                      and case when state = {(short)
                    DeliveryState.Sending} then lease_until < clock_timestamp() else next_try_at <= clock_timestamp() end
                    order by next_try_at
                    limit {most}
                    for update skip locked
                ) due
                where d.order_id = due.order_id and d.destination = due.destination
                returning d.*
                """
            )
            .AsNoTracking()
            .ToListAsync(cancel);

    /// <summary>
    /// Marks that the bytes are about to be handed over to a receiver that cannot tell doubles apart.
    /// </summary>
    /// <returns>False when the worker was overtaken and must not send.</returns>
    public async Task<bool> MarkHandingOverAsync(DeliveryRow claimed, DateTimeOffset now, CancellationToken cancel) =>
        await Mine(claimed).ExecuteUpdateAsync(set => set.SetProperty(d => d.HandedOverAt, now), cancel) == 1;

    /// <summary>
    /// Puts on record that a worker died while handing over, so that it is uncertain whether the message was taken.
    /// Done before another copy is sent.
    /// </summary>
    /// <returns>False when the worker was overtaken and must not send.</returns>
    public async Task<bool> MarkUncertainAsync(DeliveryRow claimed, DeliveryTryRow lost, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var written = await Mine(claimed)
            .ExecuteUpdateAsync(
                set => set.SetProperty(d => d.WasUncertain, true).SetProperty(d => d.HandedOverAt, (DateTimeOffset?)null),
                cancel
            );
        if (written == 1)
        {
            db.DeliveryTries.Add(lost);
            await db.SaveChangesAsync(cancel);
            await transaction.CommitAsync(cancel);
            db.ChangeTracker.Clear();
        }

        return written == 1;
    }

    /// <summary>
    /// Writes how a try ended: the delivery, the try, and what was found. Nothing is written when the worker was overtaken.
    /// </summary>
    /// <param name="claimed">The delivery as it is to become, with the fence of the claim.</param>
    /// <param name="attempt">The try.</param>
    /// <param name="findings">What was read back; empty when nothing was.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>False when the worker was overtaken.</returns>
    public async Task<bool> SettleAsync(
        DeliveryRow claimed,
        DeliveryTryRow attempt,
        IReadOnlyList<FindingRow> findings,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var written = await Mine(claimed)
            .ExecuteUpdateAsync(
                set =>
                    set.SetProperty(d => d.State, claimed.State)
                        .SetProperty(d => d.NextTryAt, claimed.NextTryAt)
                        .SetProperty(d => d.LeaseUntil, (DateTimeOffset?)null)
                        .SetProperty(d => d.HandedOverAt, claimed.HandedOverAt)
                        .SetProperty(d => d.WasUncertain, claimed.WasUncertain)
                        .SetProperty(d => d.Projection, claimed.Projection)
                        .SetProperty(d => d.Artefact, claimed.Artefact)
                        .SetProperty(d => d.Receipt, claimed.Receipt)
                        .SetProperty(d => d.SettledAt, claimed.SettledAt),
                cancel
            );
        if (written == 0)
        {
            return false;
        }

        db.DeliveryTries.Add(attempt);
        if (findings.Count > 0)
        {
            await db.Findings.Where(f => f.OrderId == claimed.OrderId && f.Destination == claimed.Destination).ExecuteDeleteAsync(cancel);
            db.Findings.AddRange(findings);
        }

        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        db.ChangeTracker.Clear();
        return true;
    }

    /// <summary>Forgets what was to be written and could not be.</summary>
    public void Forget() => db.ChangeTracker.Clear();

    private IQueryable<DeliveryRow> Mine(DeliveryRow claimed) =>
        db.Deliveries.Where(d =>
            d.OrderId == claimed.OrderId
            && d.Destination == claimed.Destination
            && d.Fence == claimed.Fence
            && d.State == DeliveryState.Sending
        );
}
