using Microsoft.EntityFrameworkCore;
using Sexton.Core.Trail;
using Sexton.Data.Rows;

namespace Sexton.Data.Retention;

/// <summary>
/// Erases what orders say of persons: destroys the key of the order, and blanks what was given to fields marked personal, what lay under the key, and the files.
/// Lines, item codes, amounts and answers that say nothing of a person stay for the books, and so do invoices, which have keys of their own.
/// </summary>
public sealed class OrderEraser(SextonDb db)
{
    // What the other side said of a delivery, and what people noted, may say something of a person.
    private const string Unsent = "The order was erased before this was sent.",
        Erased = "What was said of it was erased with the order.";

    /// <summary>Erases an order. What was still to be sent of it is not sent any more. Done twice, it is done once.</summary>
    /// <param name="order">The id of the order.</param>
    /// <param name="now">The time.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>False where a delivery of it is under way just now; then nothing was done.</returns>
    public async Task<bool> EraseAsync(Guid order, DateTimeOffset now, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var lanes = await db.Lanes.FromSql($"select * from lanes where order_id = {order} order by id for update").ToListAsync(cancel);
        // An invoice that has its number is issued first: a number without a document would be a gap.
        if (
            lanes.Exists(static l => l.State == DeliveryState.Sending)
            || await db.Invoices.AnyAsync(i => i.OrderId == order && i.Document == null, cancel)
        )
        {
            return false;
        }

        foreach (var lane in lanes.Where(static l => l.SettledAt is null))
        {
            lane.SettledAt = now;
            db.Tries.Add(
                new TryRow
                {
                    LaneId = lane.Id,
                    Sequence = lane.Sequence,
                    At = now,
                    Outcome = lane.State,
                    Detail = Unsent,
                }
            );
        }

        await db.SaveChangesAsync(cancel);
        // Some of what was bound may be of it, and all of it can be bound again.
        await db.BoundPapers.ExecuteDeleteAsync(cancel);
        await BlankAsync(order, now, cancel);
        await transaction.CommitAsync(cancel);
        return true;
    }

    /// <summary>The orders that were placed before a day and not erased yet, the oldest first.</summary>
    public async Task<IReadOnlyList<Guid>> DueAsync(DateTimeOffset placedBefore, int most, CancellationToken cancel) =>
        await db
            .Orders.Where(o => o.PlacedAt < placedBefore && o.ErasedAt == null)
            .OrderBy(o => o.PlacedAt)
            .Select(o => o.Id)
            .Take(most)
            .ToListAsync(cancel);

    /// <summary>
    /// Drops the artefacts that were last written before a day: of each stays what it was to carry, its hash, and what was found. A paper is more than evidence: whoever
    /// bought a ticket last year opens it on the day, so it stays as it was last printed for as long as its order.
    /// </summary>
    /// <param name="before">The day.</param>
    /// <param name="papers">The keys of the destinations whose papers are kept nowhere else.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>How many went.</returns>
    public Task<int> DropArtefactsAsync(DateTimeOffset before, string[] papers, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync(
            $"""
            with views as (update page_views set artefact = '' where last_at < {before} and artefact <> '' returning 1)
            update payloads p set artefact = null where at < {before} and artefact is not null
                and not exists (select from lanes l where l.id = p.lane_id and l.sequence = p.sequence and l.destination = any({papers}))
            """,
            cancel
        );

    /// <summary>Takes out, with all that is left of them, orders that were placed before a day and erased.</summary>
    /// <returns>How many went.</returns>
    public async Task<int> RemoveAsync(DateTimeOffset placedBefore, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var gone = db.Orders.Where(o => o.PlacedAt < placedBefore && o.ErasedAt != null).Select(o => o.Id);
        var lanes = db.Lanes.Where(l => gone.Contains(l.OrderId)).Select(l => l.Id);
        await db.Invoices.Where(i => gone.Contains(i.OrderId)).ExecuteDeleteAsync(cancel);
        await db.Findings.Where(f => lanes.Contains(f.LaneId)).ExecuteDeleteAsync(cancel);
        await db.Tries.Where(t => lanes.Contains(t.LaneId)).ExecuteDeleteAsync(cancel);
        await db.Payloads.Where(p => lanes.Contains(p.LaneId)).ExecuteDeleteAsync(cancel);
        await db.HandedOver.Where(h => lanes.Contains(h.LaneId)).ExecuteDeleteAsync(cancel);
        await db.GatheredParts.Where(p => lanes.Contains(p.LaneId)).ExecuteDeleteAsync(cancel);
        await db.Gathered.Where(g => !db.GatheredParts.Any(p => p.GatheredId == g.Id)).ExecuteDeleteAsync(cancel);
        await db.Lanes.Where(l => gone.Contains(l.OrderId)).ExecuteDeleteAsync(cancel);
        await db.GivenLines.Where(l => gone.Contains(l.OrderId)).ExecuteDeleteAsync(cancel);
        await db.PreparedLines.Where(l => gone.Contains(l.OrderId)).ExecuteDeleteAsync(cancel);
        await db.PageViews.Where(v => gone.Contains(v.OrderId)).ExecuteDeleteAsync(cancel);
        await db.Looks.Where(l => gone.Contains(l.OrderId)).ExecuteDeleteAsync(cancel);
        var revisions = db.OrderRevisions.Where(r => gone.Contains(r.OrderId)).Select(r => r.Id);
        await db.Answers.Where(a => revisions.Contains(a.RevisionId)).ExecuteDeleteAsync(cancel);
        await db.OrderPrices.Where(p => revisions.Contains(p.RevisionId)).ExecuteDeleteAsync(cancel);
        await db.OrderUnits.Where(u => revisions.Contains(u.RevisionId)).ExecuteDeleteAsync(cancel);
        await db.OrderLines.Where(l => revisions.Contains(l.RevisionId)).ExecuteDeleteAsync(cancel);
        await db.OrderRevisions.Where(r => gone.Contains(r.OrderId)).ExecuteDeleteAsync(cancel);
        var count = await db.Orders.Where(o => o.PlacedAt < placedBefore && o.ErasedAt != null).ExecuteDeleteAsync(cancel);
        await transaction.CommitAsync(cancel);
        return count;
    }

    private Task BlankAsync(Guid order, DateTimeOffset now, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync(
            $"""
            with erased as (
                update orders set key = null, erased_at = {now}, shopper_id = null where id = {order} and erased_at is null returning id
            ), answered as (
                update answers a set value = null, text = '', system_text = null, sealed = case when sealed is not null then ''::bytea end
                from erased e, order_revisions r where r.order_id = e.id and a.revision_id = r.id and (a.personal or a.sealed is not null)
            ), priced as (
                update order_prices p set sealed = null from erased e, order_revisions r where r.order_id = e.id and p.revision_id = r.id and p.sealed is not null
            ), revised as (
                update order_revisions r set facts = '', search = (
                    select coalesce(string_agg(distinct t, E'\n'), '') from (
                        select item_code as t from order_lines l where l.revision_id = r.id
                        union select text from answers a where a.revision_id = r.id and not a.personal and a.sealed is null and a.text <> ''
                    ) kept
                ) from erased e where r.order_id = e.id
            ), sent as (
                update payloads p set projection = '', artefact = null, hash = null
                from erased e, lanes l where l.order_id = e.id and p.lane_id = l.id
            ), found as (
                update findings f set texts = '' from erased e, lanes l where l.order_id = e.id and f.lane_id = l.id
            ), tried as (
                update tries t set detail = {Erased} from erased e, lanes l where l.order_id = e.id and t.lane_id = l.id and t.detail <> {Unsent}
            ), handed as (
                delete from handed_over h using erased e, lanes l where l.order_id = e.id and h.lane_id = l.id
            ), viewed as (
                update page_views v set artefact = '', projection = '' from erased e where v.order_id = e.id
            ), unfiled as (
                delete from order_files o using erased e where o.order_id = e.id returning o.file_id
            )
            delete from files f using unfiled u where f.id = u.file_id
            and not exists (select 1 from order_files o where o.file_id = f.id and o.order_id <> {order})
            and not exists (select 1 from carts c where c.order_id is null and f.id = any(c.files))
            """,
            cancel
        );
}
