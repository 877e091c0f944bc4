using Npgsql;
using Sexton.Core.Plan;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Data.Queue;
using Sexton.Data.Rows;
using Sexton.Data.Sealing;
using Sexton.Destinations;
using Sexton.Destinations.Events;
using Sexton.Destinations.Invoices;
using Sexton.Server.Common;
using Sexton.Server.Makers;
using Sexton.Server.Orders;
using Sexton.Server.Versions;

namespace Sexton.Server.Deliveries;

/// <summary>
/// Makes one try of a claimed delivery: project, render, send, read back, settle. It is not cancelled when the server stops,
/// since a message half handed over would become uncertain for nothing; every wait in it has a limit. Whatever goes wrong, a mistake of ours too, is a
/// try on record with its pause and its end.
/// </summary>
internal sealed class DeliveryRunner(
    LaneQueue queue,
    OrderReader orders,
    ItemCodesThere codes,
    InvoiceIssuer invoices,
    CurrentRegister current,
    DeliveryActions actions,
    WorkSignal signal,
    TimeProvider clock,
    ILogger<DeliveryRunner> log
)
{
    // Whether the bytes may have reached a receiver that cannot tell doubles apart.
    private bool _handedOver;
    private DeliveredKind? _kind;

    // The destinations that are told when something arrives here: those that are told events are not told of each other.
    private string[] _told = [];

    public async Task RunAsync(LaneRow claimed)
    {
        log.Milestone("delivery.claimed", claimed.OrderId, claimed.Destination);
        try
        {
            await TryAsync(claimed);
        }
        catch (OvertakenException)
        {
            // The lease ran out and another worker has it; its try counts.
        }
        catch (Exception e) when (!IsOutage(e))
        {
            log.LogError(e, "The delivery of {Order} to {Destination} went wrong here", claimed.OrderId, claimed.Destination);
            await SettleAsync(
                claimed,
                null,
                null,
                new SendResult(_handedOver ? SendOutcome.Lost : SendOutcome.NotTaken, $"It could not be made here: {e.Message}")
            );
        }
    }

    // Then nothing can be put on record either; the lease runs out, and another try follows.
    private static bool IsOutage(Exception e) =>
        e is NpgsqlException { IsTransient: true } or { InnerException: NpgsqlException { IsTransient: true } };

    private async Task TryAsync(LaneRow claimed)
    {
        var (version, _) = await current.GetAsync(CancellationToken.None);
        var destination =
            version.Plan.Destinations.Find(claimed.Destination)
            ?? throw new InvalidOperationException($"there is no destination “{claimed.Destination}” any more.");
        var kind = _kind = (DeliveredKind)destination.Kind;
        _told = kind.TellsEvents ? [] : version.Plan.Destinations.Told(OrderEvent.Arrived);
        if (claimed.HandedOverAt is not null && !await ResolveLostHandOverAsync(claimed, kind))
        {
            return;
        }

        var sent = await PrepareAsync(claimed, version.Plan, destination);
        if (!sent.IsUnread && sent.Order.WhyStops is { } why)
        {
            claimed.MissingCode = sent.Order.Unmatched.FirstOrDefault();
            await SettleAsync(claimed, null, null, new SendResult(SendOutcome.Stopped, why));
            if (claimed.MissingCode is not null)
            {
                // Somebody may have matched it between our looking and our saying so.
                await codes.WakeAsync(claimed.Destination, clock.GetUtcNow(), CancellationToken.None);
            }

            return;
        }

        var result =
            sent.IsUnread ? await FetchAsync(destination, kind, claimed.Receipt!)
            : kind is InvoicePaperKind invoice
                ? await invoices.SendAsync(invoice, claimed, sent.Order, sent.Revision, order => SendAsync(invoice, claimed, order))
            : await SendAsync(kind, claimed, sent.Order);
        log.Milestone("delivery.handed_over", claimed.OrderId, claimed.Destination);
        if (result.Outcome != SendOutcome.Taken)
        {
            await SettleAsync(claimed, sent, null, result);
            return;
        }

        var findings = ReadBack(kind, result.Artefact!, sent.Order);
        try
        {
            await SettleAsync(claimed, sent, findings, result);
        }
        catch (Exception e) when (!IsOutage(e))
        {
            // It was taken, and must not be sent again because we cannot keep what was found.
            log.LogError(e, "What was found of {Order} at {Destination} could not be kept", claimed.OrderId, claimed.Destination);
            queue.Forget();
            await SettleAsync(
                claimed,
                null,
                null,
                new SendResult(SendOutcome.Taken, $"{result.Detail} What was found there could not be kept.", result.Receipt)
            );
        }
    }

    private Task<SendResult> SendAsync(DeliveredKind kind, LaneRow claimed, SentOrder order) =>
        kind.SendAsync(
            order.To,
            kind.Render(order, claimed.Sequence),
            new Handover(
                order.KeyOf(claimed.Sequence),
                ReturnAddresses.ReferenceOf(claimed.Id, claimed.Sequence),
                () => HandingOverAsync(kind, claimed)
            ),
            CancellationToken.None
        );

    private async Task<Sending> PrepareAsync(LaneRow claimed, RegisterPlan plan, BoundDestination destination)
    {
        // What takes an invoice back is of the order as it was then, and so is what tells an event.
        var payload = await queue.PayloadAsync(claimed, CancellationToken.None);
        var revision =
            destination.Kind.FollowsAnother ? (await invoices.CreditedAsync(claimed))?.Revision
            : payload?.Event is null ? null
            : payload.Revision;
        var order = revision is { } then
            ? (await orders.FindAsync(claimed.OrderId, then, CancellationToken.None))!
            : (await orders.FindAsync(claimed.OrderId, CancellationToken.None))!;

        // What was taken is read back as it was sent, whatever the routes say since.
        var isUnread = claimed.Receipt is not null && payload is { Artefact: null, Projection.Length: > 0 };
        var projection = isUnread
            ? StoredPayload.OpenProjection(
                payload!.Projection,
                await orders.AnswersAsync(order, payload.Revision, CancellationToken.None),
                order.OpenKey
            )
            : order.ProjectedOn(plan, claimed.Destination, claimed.Part);
        return new Sending(
            await codes.FillInAsync(
                new SentOrder(order.Id, order.Number, order.PlacedAt, order.Content, projection, destination)
                {
                    Told = payload?.Event is { } what ? new ToldEvent(what, payload.About, payload.HappenedAt!.Value) : null,
                }.Along(plan, order.Own, claimed.Part),
                CancellationToken.None
            ),
            order.OpenKey,
            isUnread ? payload!.Revision : order.Revision,
            isUnread
        );
    }

    private static async Task<SendResult> FetchAsync(BoundDestination destination, DeliveredKind kind, string receipt) =>
        await kind.FetchAsync(destination, receipt, CancellationToken.None) is { } record
            ? new SendResult(SendOutcome.Taken, "Read back.", receipt, record)
            : new SendResult(SendOutcome.TakenUnread, "It could not be read back yet.", receipt);

    // A reader that fails proves nothing, and says so of every answer.
    private List<SlotFinding> ReadBack(DeliveredKind kind, byte[] artefact, SentOrder sent)
    {
        try
        {
            return [.. kind.ReadBack(artefact, sent)];
        }
        catch (Exception e)
        {
            log.LogError(e, "What {Destination} has of {Order} could not be read", sent.To.Key, sent.Id);
            return
            [
                .. sent.Projection.Entries.Select(static entry => new SlotFinding(
                    entry.Slot.ToString(),
                    "unread",
                    entry.Proof,
                    null,
                    Finding.NotProvable
                )),
            ];
        }
    }

    private async Task HandingOverAsync(DeliveredKind kind, LaneRow claimed)
    {
        if (!kind.TellsDoublesApart)
        {
            if (!await queue.MarkHandingOverAsync(claimed, clock.GetUtcNow(), CancellationToken.None))
            {
                throw new OvertakenException();
            }

            _handedOver = true;
        }

        log.Milestone("delivery.handing_over", claimed.OrderId, claimed.Destination);
    }

    // A worker, or the database, stopped between the mark and the acknowledgement. Nobody can say whether the message was taken: that is put on record,
    // and it is sent once more under the same number; if that happened before, it stays uncertain.
    private async Task<bool> ResolveLostHandOverAsync(LaneRow claimed, DeliveredKind kind)
    {
        var step = LaneTransitions.AfterLostHandOver(claimed.WasUncertain);
        if (step.IsSettled)
        {
            (claimed.State, claimed.SettledAt, claimed.HandedOverAt) = (step.State, clock.GetUtcNow(), null);
            await queue.SettleAsync(
                claimed,
                kind.ReplacesUnsent,
                Try(claimed, step.State, "Handed over again, and again nothing on record of how it ended. It is not sent a third time."),
                null,
                [],
                [],
                CancellationToken.None
            );
            return false;
        }

        var lost = Try(
            claimed,
            step.State,
            "Handed over, and nothing on record of how it ended: this server or its database stopped in between. Sent once more under the same Message-ID."
        );
        if (!await queue.MarkUncertainAsync(claimed, lost, CancellationToken.None))
        {
            return false;
        }

        (claimed.WasUncertain, claimed.HandedOverAt) = (step.WasUncertain, null);
        return true;
    }

    private async Task SettleAsync(LaneRow claimed, Sending? sent, IReadOnlyList<SlotFinding>? findings, SendResult result)
    {
        var now = clock.GetUtcNow();
        var step = LaneTransitions.After(result.Outcome, claimed.Tries, claimed.WasUncertain, Random.Shared.NextDouble());
        (claimed.State, claimed.WasUncertain, claimed.HandedOverAt) = (step.State, step.WasUncertain, null);
        (claimed.NextTryAt, claimed.SettledAt) = (now + (step.Pause ?? TimeSpan.Zero), step.IsSettled ? now : null);
        claimed.Receipt = result.Receipt ?? claimed.Receipt;
        var isKept = result.Artefact is not null || result.Outcome == SendOutcome.TakenUnread;
        if (
            await queue.SettleAsync(
                claimed,
                _kind?.ReplacesUnsent ?? true,
                Try(claimed, claimed.State, result.Detail),
                sent is not null && isKept ? Payload(claimed, sent, findings, result.Artefact, now) : null,
                sent is null ? [] : [.. (findings ?? []).Where(static f => !f.Agrees).Select(f => StoredPayload.Row(claimed, f, sent.Key))],
                _told,
                CancellationToken.None
            )
        )
        {
            if (result.Outcome == SendOutcome.Gone)
            {
                await actions.PauseGoneAsync(claimed.Destination, result.Detail, CancellationToken.None);
            }

            foreach (var told in _told)
            {
                signal.Of(told).Raise();
            }

            log.Milestone("delivery.settled", claimed.OrderId, claimed.Destination);
        }
    }

    private static PayloadRow Payload(
        LaneRow claimed,
        Sending sent,
        IReadOnlyList<SlotFinding>? findings,
        byte[]? artefact,
        DateTimeOffset now
    )
    {
        var agreed = (findings ?? []).Where(static f => f.Agrees).ToList();
        return new PayloadRow
        {
            LaneId = claimed.Id,
            Sequence = claimed.Sequence,
            Revision = sent.Revision,
            Projection = StoredPayload.Seal(sent.Order.Projection, sent.Order.Content.Answers, sent.Key),
            Hash = artefact is null ? null : StoredPayload.HashOf(artefact),
            Artefact = artefact is null ? null : StoredPayload.SealArtefact(artefact, sent.Key),
            Agreed = SlotFinding.Worst(agreed.Select(static f => f.Finding)),
            AgreedCount = agreed.Count,
            At = now,
        };
    }

    private TryRow Try(LaneRow claimed, DeliveryState outcome, string detail) =>
        new()
        {
            LaneId = claimed.Id,
            Sequence = claimed.Sequence,
            At = clock.GetUtcNow(),
            Outcome = outcome,
            Detail = detail,
        };

    // An order on its way: what goes, the key that it is kept under, the revision, and whether it was taken before and only has to be read back.
    private sealed record Sending(SentOrder Order, DataKey Key, int Revision, bool IsUnread);

    private sealed class OvertakenException : Exception;
}
