using Microsoft.EntityFrameworkCore;
using Sexton.Core.Catalogue;
using Sexton.Core.Orders;
using Sexton.Data.Rows;

namespace Sexton.Data.Placing;

/// <summary>
/// Keeps what is counted: held by an attempt, taken by its order, given back when it ends. Rows are locked in the order of their codes, so
/// that two who want the same things never wait for each other.
/// </summary>
public sealed class StockReservations(SextonDb db)
{
    /// <summary>What is left of everything that is counted.</summary>
    public async Task<StockLevels> LevelsAsync(CancellationToken cancel)
    {
        var rows = await db.Stock.AsNoTracking().Select(s => new { s.Item, Left = s.OnHand - s.Held }).ToListAsync(cancel);
        return rows.Count == 0 ? StockLevels.Uncounted : new StockLevels(rows.Select(static r => KeyValuePair.Create(r.Item, r.Left)));
    }

    /// <summary>
    /// Holds for an attempt what its order would use, and saves it with whatever else is to be saved: the attempt itself. Called within the transaction that makes it.
    /// </summary>
    /// <param name="attempt">The attempt.</param>
    /// <param name="uses">What it would use.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>Null when all of it is held; else what there is not enough of, and how many are left.</returns>
    public async Task<(string Item, long Left)?> HoldAsync(Guid attempt, IEnumerable<OrderUsage> uses, CancellationToken cancel)
    {
        var wanted = uses.GroupBy(static u => u.Item, StringComparer.Ordinal)
            .ToDictionary(static g => g.Key, static g => g.Sum(static u => u.Quantity), StringComparer.Ordinal);
        var items = wanted.Keys.ToArray();
        var counted = await db.Stock.FromSql($"select * from stock where item = any({items}) order by item for update").ToListAsync(cancel);
        foreach (var row in counted)
        {
            if (row.OnHand - row.Held < wanted[row.Item])
            {
                return (row.Item, row.OnHand - row.Held);
            }

            row.Held += wanted[row.Item];
            db.StockHolds.Add(
                new StockHoldRow
                {
                    AttemptId = attempt,
                    Item = row.Item,
                    Quantity = wanted[row.Item],
                }
            );
        }

        await db.SaveChangesAsync(cancel);
        return null;
    }

    /// <summary>
    /// Ends an attempt that becomes no order: what it held is given back, in the same statement and at most once. The condition that counts
    /// the locked rows makes all locks come before the first change, as when an order is placed.
    /// </summary>
    public Task EndAsync(Guid attempt, AttemptState state, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync(
            $"""
            with ended as (
                update attempts set state = {(short)state}, key = '', content = '', shown = null, shown_projection = null, payment_token = '' where id = {attempt} and state = {(short)
                AttemptState.Paying} returning id
            ), locked as (
                select s.item from stock s where s.item in (select item from stock_holds where attempt_id = {attempt}) order by s.item for update
            ), released as (
                delete from stock_holds where attempt_id = (select id from ended) returning item, quantity
            )
            update stock s set held = s.held - r.quantity from released r where s.item = r.item and (select count(*) from locked) >= 0
            """,
            cancel
        );

    /// <summary>Counts something anew, or counts it no longer.</summary>
    /// <param name="item">What.</param>
    /// <param name="onHand">How many are on the shelf; null to count it no longer.</param>
    /// <param name="actor">Who counted.</param>
    /// <param name="now">When.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>Null when it was done; else how many are held, and stand in the way.</returns>
    public async Task<long?> CountAsync(string item, long? onHand, string actor, DateTimeOffset now, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var row = await db.Stock.FromSql($"select * from stock where item = {item} for update").SingleOrDefaultAsync(cancel);
        if (row is not null && row.Held > (onHand ?? 0))
        {
            return row.Held;
        }

        db.StockMovements.Add(
            new StockMovementRow
            {
                Item = item,
                Quantity = (onHand ?? 0) - (row?.OnHand ?? 0),
                At = now,
                Actor = actor,
            }
        );
        if (onHand is null)
        {
            db.Stock.RemoveRange(row is null ? [] : [row]);
        }
        else if (row is null)
        {
            db.Stock.Add(
                new StockRow
                {
                    Item = item,
                    OnHand = onHand.Value,
                    Held = 0,
                }
            );
        }
        else
        {
            row.OnHand = onHand.Value;
        }

        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return null;
    }
}
