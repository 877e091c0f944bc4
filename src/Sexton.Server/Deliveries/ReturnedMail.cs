using Microsoft.EntityFrameworkCore;
using MimeKit;
using Sexton.Core.Trail;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Common;

namespace Sexton.Server.Deliveries;

/// <summary>
/// Takes reports of messages that came back (RFC 3464), as the mail server passes them on: what was taken and could not be delivered after all needs attention. The
/// address that the report was sent to says which, and that it is ours; a report sent twice is one.
/// </summary>
internal sealed class ReturnedMail(SextonDb db, ReturnAddresses addresses, TimeProvider clock)
{
    private const int LongestReason = 300;

    /// <summary>Maps the address to which the mail server posts them.</summary>
    public static void Map(IEndpointRouteBuilder mail) =>
        mail.MapPost(
                "reports",
                static async (HttpRequest request, ReturnedMail returned, CancellationToken cancel) =>
                {
                    await returned.TakeAsync(request.Body, cancel);
                    return TypedResults.NoContent();
                }
            )
            .WithName("TakeMailReport");

    /// <summary>Takes a report.</summary>
    /// <param name="raw">The message, as it was received.</param>
    /// <param name="cancel">Cancels.</param>
    /// <exception cref="ApiProblemException">It is no report of a message that was sent here.</exception>
    public async Task TakeAsync(Stream raw, CancellationToken cancel)
    {
        using var message = await ReadAsync(raw, cancel);
        if (
            message.To.Mailboxes.Select(m => addresses.Read(m.Address)).FirstOrDefault(static r => r is not null) is not { } payload
            || message.BodyParts.OfType<MessageDeliveryStatus>().FirstOrDefault() is not { } status
        )
        {
            throw ApiProblemException.Unprocessable("no_report", "This is no report of a message that was sent from here.");
        }

        // The first group of fields is about the message, and each after it about a recipient.
        if (status.StatusGroups.Skip(1).FirstOrDefault(static g => g["Action"]?.Trim().ToLowerInvariant() == "failed") is { } failed)
        {
            await FailAsync(payload.Lane, payload.Sequence, ReasonOf(failed), cancel);
        }
    }

    private async Task FailAsync(long id, int sequence, string reason, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var lane = await db.Lanes.FromSql($"select * from lanes where id = {id} for update").SingleOrDefaultAsync(cancel);
        var isKnown = await db.Tries.AnyAsync(
            t => t.LaneId == id && t.Sequence == sequence && t.Outcome == DeliveryState.Refused && t.Detail == reason,
            cancel
        );
        if (lane is null || isKnown)
        {
            return;
        }

        if (lane.Sequence == sequence && lane.State == DeliveryState.Sending)
        {
            // It came back before we wrote down that it went: whoever passes it on tries again.
            throw new ApiProblemException(
                StatusCodes.Status503ServiceUnavailable,
                "being_sent",
                "The message is being sent at this moment. Pass the report on again in a minute."
            );
        }

        db.Tries.Add(
            new TryRow
            {
                LaneId = id,
                Sequence = sequence,
                At = clock.GetUtcNow(),
                Outcome = DeliveryState.Refused,
                Detail = reason,
            }
        );

        // Where something newer is under way, what came back is only put on record.
        if (lane.Sequence == sequence && lane.State is DeliveryState.Sent or DeliveryState.Uncertain)
        {
            (lane.State, lane.SettledAt) = (DeliveryState.Refused, clock.GetUtcNow());
        }

        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    private static async Task<MimeMessage> ReadAsync(Stream raw, CancellationToken cancel)
    {
        // The whole body first: a request is read without waiting threads, and what reads mail waits.
        using var whole = new MemoryStream();
        await raw.CopyToAsync(whole, cancel);
        whole.Position = 0;
        try
        {
            return await MimeMessage.LoadAsync(whole, cancel);
        }
        catch (FormatException)
        {
            throw ApiProblemException.Unprocessable("no_report", "This is no message.");
        }
    }

    private static string ReasonOf(HeaderList failed)
    {
        var said = failed["Diagnostic-Code"] ?? failed["Status"] ?? "no reason given";
        var reason = $"It came back: {said[(said.IndexOf(';', StringComparison.Ordinal) + 1)..].Trim()}";
        return reason.Length > LongestReason ? reason[..LongestReason] : reason;
    }
}
