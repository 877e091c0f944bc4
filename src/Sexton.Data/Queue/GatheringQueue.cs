using Microsoft.EntityFrameworkCore;
using Sexton.Core.Trail;
using Sexton.Data.Rows;

namespace Sexton.Data.Queue;

/// <summary>What was claimed to go as one.</summary>
/// <param name="Row">What it is.</param>
/// <param name="Lanes">The lanes whose payloads go within it.</param>
public sealed record Gathered(GatheredRow Row, IReadOnlyList<LaneRow> Lanes);

/// <summary>
/// Claims lanes to a destination that gets many orders as one. What was begun is finished first and with those that it was begun with, so that a worker that died after
/// handing it over leaves nobody in two of them.
/// </summary>
public sealed class GatheringQueue(SextonDb db)
{
    /// <summary>Claims what was begun and is due, or all that was due at a time.</summary>
    /// <param name="destination">The key of the destination.</param>
    /// <param name="dueAt">The time at which the day's was to be gathered.</param>
    /// <param name="day">Its day.</param>
    /// <param name="most">The greatest number of lanes.</param>
    /// <param name="lease">How long they are the worker's.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>Null where nothing is to go.</returns>
    public async Task<Gathered?> ClaimAsync(
        string destination,
        DateTimeOffset dueAt,
        DateOnly day,
        int most,
        TimeSpan lease,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock(hashtextextended('gathering ' || {destination}, 0))", cancel);
        if (await db.PausedDestinations.AnyAsync(p => p.Destination == destination, cancel))
        {
            return null;
        }

        var row = await BegunAsync(destination, cancel);
        var ids = row is null ? await DueAsync(destination, dueAt, most, cancel) : await PartsAsync(row.Id, cancel);
        if (ids.Length == 0)
        {
            return null;
        }

        row ??= await BeginAsync(destination, dueAt, day, ids, cancel);
        var lanes = await db
            .Lanes.FromSql(
                $"""
                update lanes set state = {(short)
                    DeliveryState.Sending}, lease_until = clock_timestamp() + {lease}, fence = fence + 1, tries = tries + 1
                where id = any({ids}) returning *
                """
            )
            .AsNoTracking()
            .ToListAsync(cancel);
        await transaction.CommitAsync(cancel);
        return new Gathered(row, [.. lanes.OrderBy(static l => l.Id)]);
    }

    /// <summary>Takes a payload out of what was gathered, or all of them: it goes with what is gathered next, if at all.</summary>
    /// <param name="id">What was gathered.</param>
    /// <param name="lanes">The lanes.</param>
    /// <param name="cancel">Cancels.</param>
    public Task LeaveAsync(long id, long[] lanes, CancellationToken cancel) =>
        db.GatheredParts.Where(p => p.GatheredId == id && lanes.Contains(p.LaneId)).ExecuteDeleteAsync(cancel);

    /// <summary>Puts down what is about to be sent.</summary>
    /// <param name="id">What was gathered.</param>
    /// <param name="hash">Its SHA-256.</param>
    /// <param name="cancel">Cancels.</param>
    public Task SendingAsync(long id, byte[] hash, CancellationToken cancel) =>
        db.Gathered.Where(g => g.Id == id).ExecuteUpdateAsync(set => set.SetProperty(static g => g.Hash, hash), cancel);

    // The first of which something is not settled.
    private Task<GatheredRow?> BegunAsync(string destination, CancellationToken cancel) =>
        db
            .Gathered.AsNoTracking()
            .Where(g => g.Destination == destination && Unsettled.Any(p => p.GatheredId == g.Id))
            .OrderBy(static g => g.Id)
            .FirstOrDefaultAsync(cancel);

    private IQueryable<GatheredPartRow> Unsettled =>
        db.GatheredParts.Where(p => db.Lanes.Any(l => l.Id == p.LaneId && l.Sequence == p.Sequence && l.SettledAt == null));

    // None while one of them waits or is another worker's.
    private async Task<long[]> PartsAsync(long id, CancellationToken cancel)
    {
        var lanes = await db
            .Lanes.FromSql(
                $"""
                select l.* from lanes l join gathered_parts p on p.lane_id = l.id and p.sequence = l.sequence
                where p.gathered_id = {id} and l.settled_at is null
                order by l.id for update of l
                """
            )
            .AsNoTracking()
            .ToListAsync(cancel);
        var now = await db.Database.SqlQuery<DateTimeOffset>($"select clock_timestamp() as \"Value\"").SingleAsync(cancel);
        return lanes.TrueForAll(l => l.State == DeliveryState.Sending ? l.LeaseUntil < now : l.NextTryAt <= now)
            ? [.. lanes.Select(static l => l.Id)]
            : [];
    }

    private async Task<long[]> DueAsync(string destination, DateTimeOffset dueAt, int most, CancellationToken cancel) =>
        [
            .. await db
                .Database.SqlQuery<long>(
                    $"""
                    select id as "Value" from lanes
                    where destination = {destination} and settled_at is null and next_try_at <= {dueAt}
                      and (state <> {(short)DeliveryState.Sending} or lease_until < clock_timestamp())
                    order by id
                    limit {most}
                    for update skip locked
                    """
                )
                .ToListAsync(cancel),
        ];

    private async Task<GatheredRow> BeginAsync(
        string destination,
        DateTimeOffset dueAt,
        DateOnly day,
        long[] lanes,
        CancellationToken cancel
    )
    {
        var last = await db.Gathered.Where(g => g.Destination == destination && g.Day == day).MaxAsync(static g => (int?)g.Number, cancel);
        var row = new GatheredRow
        {
            Destination = destination,
            Day = day,
            Number = (last ?? 0) + 1,
            At = dueAt,
        };
        db.Gathered.Add(row);
        await db.SaveChangesAsync(cancel);
        await db.Database.ExecuteSqlAsync(
            $"""
            insert into gathered_parts (gathered_id, lane_id, sequence)
            select {row.Id}, id, sequence from lanes where id = any({lanes})
            """,
            cancel
        );
        db.ChangeTracker.Clear();
        return row;
    }
}
