using Microsoft.EntityFrameworkCore;
using Sexton.Core.Facts;
using Sexton.Core.Routing;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Accounts;

namespace Sexton.Server.Orders;

/// <summary>The sensitive answers of an order: covered on the page of staff until somebody asks to see one, and each look is put on record.</summary>
internal sealed class CoveredAnswers(SextonDb db, TimeProvider clock)
{
    /// <summary>The slots of the sensitive answers that were given.</summary>
    public static IReadOnlyList<SlotId> Of(StoredOrder order) =>
        [.. order.Content.Answers.Where(static a => a is { Sensitive: true, Value: not null }).Select(static a => a.Slot)];

    /// <summary>The slots that are covered at a destination: those of a page that staff open.</summary>
    /// <param name="destination">The destination; null for one that is not there any more.</param>
    /// <param name="order">The order.</param>
    public static IReadOnlyList<SlotId> At(BoundDestination? destination, StoredOrder order) =>
        destination?.Kind is { IsDelivered: false, Audience: Audience.Staff } ? Of(order) : [];

    // A page that is drawn again while it is open is one look.
    private static readonly TimeSpan OneLook = TimeSpan.FromMinutes(5);

    /// <summary>Puts on record that somebody is about to see answers.</summary>
    /// <param name="order">The order.</param>
    /// <param name="slots">The slots of the answers.</param>
    /// <param name="who">Who looks.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task LookAsync(StoredOrder order, IEnumerable<SlotId> slots, Actor who, CancellationToken cancel)
    {
        var wanted = slots.Select(static s => s.ToString()).ToList();
        if (wanted.Count == 0)
        {
            return;
        }

        var now = clock.GetUtcNow();
        var looking = await db
            .Looks.Where(l => l.OrderId == order.Id && l.Account == who.Id && l.At > now - OneLook)
            .Select(static l => l.Slot)
            .ToListAsync(cancel);
        db.Looks.AddRange(
            wanted
                .Except(looking, StringComparer.Ordinal)
                .Select(slot => new LookRow
                {
                    OrderId = order.Id,
                    Slot = slot,
                    Account = who.Id,
                    Name = who.Name,
                    At = now,
                })
        );
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Who looked at an answer, the first first.</summary>
    public async Task<IReadOnlyList<LookRow>> OfAsync(Guid order, string slot, CancellationToken cancel) =>
        await db.Looks.AsNoTracking().Where(l => l.OrderId == order && l.Slot == slot).OrderBy(static l => l.Id).ToListAsync(cancel);
}
