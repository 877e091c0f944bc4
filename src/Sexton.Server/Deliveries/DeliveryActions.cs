using Microsoft.EntityFrameworkCore;
using Sexton.Core.Trail;
using Sexton.Data;
using Sexton.Data.Queue;
using Sexton.Data.Rows;
using Sexton.Server.Accounts;
using Sexton.Server.Common;
using Sexton.Server.Versions;

namespace Sexton.Server.Deliveries;

/// <summary>What people do about deliveries: send again, settle, hand over, pause.</summary>
internal sealed class DeliveryActions(SextonDb db, CurrentRegister current, WorkSignal signal, TimeProvider clock)
{
    private const int LongestNote = 500;

    private static readonly DeliveryState[] CanGoAgain = [.. Enum.GetValues<DeliveryState>().Where(LaneTransitions.CanBeSentAgain)];

    /// <summary>Sends again what was refused or given up, and at once what waits for its next try.</summary>
    /// <param name="lanes">Which of it.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>How many go.</returns>
    public async Task<int> SendAgainAsync(IQueryable<LaneRow> lanes, CancellationToken cancel)
    {
        var now = clock.GetUtcNow();
        var count = await lanes
            .Where(l => CanGoAgain.Contains(l.State) && (l.State != DeliveryState.Waiting || l.NextTryAt > now))
            .GoAgainAsync(now, cancel);
        if (count == 0)
        {
            throw ApiProblemException.Conflict("nothing_to_send", "There is nothing to send again: it is under way or was taken.");
        }

        signal.Raise();
        return count;
    }

    /// <summary>Settles a delivery by hand: nothing more is done about it, and its reason stays with it.</summary>
    public async Task SettleAsync(long id, string reason, Actor actor, CancellationToken cancel)
    {
        var text = Checked(reason, "Say why nothing more is to be done about it.");
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var lane = await LockAsync(id, cancel);
        if (lane.State is DeliveryState.Sending or DeliveryState.SettledByHand or DeliveryState.Withdrawn)
        {
            throw ApiProblemException.Conflict(
                "not_to_be_settled",
                lane.State == DeliveryState.Sending
                    ? "It is being sent at this moment. Try again when that is over."
                    : "It is settled already."
            );
        }

        (lane.State, lane.SettledAt, lane.MissingCode) = (DeliveryState.SettledByHand, clock.GetUtcNow(), null);
        db.Tries.Add(
            new TryRow
            {
                LaneId = lane.Id,
                Sequence = lane.Sequence,
                At = clock.GetUtcNow(),
                Outcome = DeliveryState.SettledByHand,
                Detail = $"{actor.Name} settled it by hand: {text}",
            }
        );
        if ((await current.GetAsync(cancel)).Version.Plan.Destinations.Find(lane.Destination) is { Kind.ReplacesUnsent: false })
        {
            // What waited behind it goes in its turn.
            LaneQueue.GoOn(lane, replaces: false, clock.GetUtcNow());
        }

        await db.SaveChangesAsync(cancel);
        await db.HandedOver.Where(h => h.LaneId == id).ExecuteDeleteAsync(cancel);
        await transaction.CommitAsync(cancel);
        signal.Raise();
    }

    /// <summary>Hands a delivery over to a person, with a note.</summary>
    public async Task HandOverAsync(long id, Guid to, string note, Actor actor, CancellationToken cancel)
    {
        var text = Checked(note, "Say what is to be done about it.");
        if (!await db.Users.AnyAsync(u => u.Id == to, cancel))
        {
            throw ApiProblemException.Unprocessable("no_account", "There is no such account. Choose one of those that are there.");
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await LockAsync(id, cancel);
        var row = await db.HandedOver.SingleOrDefaultAsync(h => h.LaneId == id, cancel);
        if (row is null)
        {
            db.HandedOver.Add(
                new HandedOverRow
                {
                    LaneId = id,
                    To = to,
                    Note = text,
                    By = actor.Name,
                    At = clock.GetUtcNow(),
                }
            );
        }
        else
        {
            (row.To, row.Note, row.By, row.At) = (to, text, actor.Name, clock.GetUtcNow());
        }

        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Pauses a destination: what goes there waits until somebody resumes it.</summary>
    public async Task PauseAsync(string destination, string note, Actor actor, CancellationToken cancel)
    {
        var text = Checked(note, "Say why nothing is to be sent there for now.");
        await db.Database.ExecuteSqlAsync(
            $"""
            insert into paused_destinations (destination, note, account, name, at)
            values ({destination}, {text}, {actor.Id}, {actor.Name}, {clock.GetUtcNow()})
            on conflict (destination) do nothing
            """,
            cancel
        );
    }

    /// <summary>Pauses a destination that said that it wants nothing more; whoever answers for it is told.</summary>
    /// <param name="destination">The key of the destination.</param>
    /// <param name="why">What it said.</param>
    /// <param name="cancel">Cancels.</param>
    public Task PauseGoneAsync(string destination, string why, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync(
            $"""
            insert into paused_destinations (destination, note, account, name, at)
            values ({destination}, {why}, '', 'Sexton', {clock.GetUtcNow()})
            on conflict (destination) do nothing
            """,
            cancel
        );

    /// <summary>Resumes a destination.</summary>
    public async Task ResumeAsync(string destination, CancellationToken cancel)
    {
        await db.PausedDestinations.Where(p => p.Destination == destination).ExecuteDeleteAsync(cancel);
        signal.Raise();
    }

    private async Task<LaneRow> LockAsync(long id, CancellationToken cancel) =>
        await db.Lanes.FromSql($"select * from lanes where id = {id} for update").SingleOrDefaultAsync(cancel)
        ?? throw ApiProblemException.NotFound("There is no such delivery.");

    private static string Checked(string note, string wanted) =>
        note.Trim() is { Length: > 0 and <= LongestNote } text && !text.Any(char.IsControl)
            ? text
            : throw ApiProblemException.Unprocessable("note_refused", $"{wanted} It takes 1 to {LongestNote} characters in a line.");
}
