using Npgsql;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Data.Queue;
using Sexton.Data.Rows;
using Sexton.Destinations;
using Sexton.Destinations.Invoices;
using Sexton.Server.Common;
using Sexton.Server.Makers;
using Sexton.Server.Versions;

namespace Sexton.Server.Deliveries;

/// <summary>
/// Makes one try of a claimed delivery: project, render, send, read back, settle. It is not cancelled when the server stops,
/// since a message half handed over would become uncertain for nothing; every wait in it has a limit. Whatever goes wrong, a mistake of ours too, is a
/// try on record with its pause and its end.
/// </summary>
internal sealed class DeliveryRunner(
    LaneQueue queue,
    Sendings sendings,
    LaneSettler settler,
    ItemCodesThere codes,
    InvoiceIssuer invoices,
    PapersAlong papers,
    CurrentRegister current,
    TimeProvider clock,
    ILogger<DeliveryRunner> log
)
{
    // Whether the bytes may have reached a receiver that cannot tell doubles apart.
    private bool _handedOver;
    private Landing? _at;

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
    internal static bool IsOutage(Exception e) =>
        e is NpgsqlException { IsTransient: true } or { InnerException: NpgsqlException { IsTransient: true } };

    private async Task TryAsync(LaneRow claimed)
    {
        var (version, _) = await current.GetAsync(CancellationToken.None);
        var destination =
            version.Plan.Destinations.Find(claimed.Destination)
            ?? throw new InvalidOperationException($"there is no destination “{claimed.Destination}” any more.");
        _at = Landing.At(destination, version.Plan);
        var kind = (DeliveredKind)destination.Kind;
        if (claimed.HandedOverAt is not null && !await ResolveLostHandOverAsync(claimed, kind))
        {
            return;
        }

        var sent = await sendings.PrepareAsync(claimed, version.Plan, destination);
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

        if (!sent.IsUnread && await papers.AddAsync(claimed, sent) is var along)
        {
            if (along is null)
            {
                return;
            }

            sent = along;
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

        var findings = sendings.ReadBack(kind, result.Artefact!, sent.Order);
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
                order.NameOf(claimed.Sequence),
                () => HandingOverAsync(kind, claimed)
            ),
            CancellationToken.None
        );

    private static async Task<SendResult> FetchAsync(BoundDestination destination, DeliveredKind kind, string receipt) =>
        await kind.FetchAsync(destination, receipt, CancellationToken.None) is { } record
            ? new SendResult(SendOutcome.Taken, "Read back.", receipt, record)
            : new SendResult(SendOutcome.TakenUnread, "It could not be read back yet.", receipt);

    private Task SettleAsync(LaneRow claimed, Sending? sent, IReadOnlyList<SlotFinding>? findings, SendResult result) =>
        settler.SettleAsync(claimed, _at, sent, findings, result);

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
                new Settlement(
                    claimed,
                    kind.ReplacesUnsent,
                    settler.Try(
                        claimed,
                        step.State,
                        "Handed over again, and again nothing on record of how it ended. It is not sent a third time."
                    ),
                    null,
                    [],
                    [],
                    []
                ),
                CancellationToken.None
            );
            return false;
        }

        var lost = settler.Try(
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

    private sealed class OvertakenException : Exception;
}
