using System.Text.Json;
using Npgsql;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Core.Values;
using Sexton.Data.Queue;
using Sexton.Data.Rows;
using Sexton.Destinations;
using Sexton.Server.Hosting;
using Sexton.Server.Orders;
using Sexton.Server.Versions;

namespace Sexton.Server.Deliveries;

/// <summary>
/// Makes one try of a claimed delivery: project, render, send, read back, settle. It is not cancelled when the server stops,
/// since a message half handed over would become uncertain for nothing; every wait in it has a limit. Whatever goes wrong, a mistake of ours too, is a
/// try on record with its pause and its end.
/// </summary>
internal sealed class DeliveryRunner(
    DeliveryQueue queue,
    OrderReader orders,
    CurrentRegister current,
    IEnumerable<IDeliveredDestination> destinations,
    TimeProvider clock,
    ILogger<DeliveryRunner> log
)
{
    // Whether the bytes may have reached a receiver that cannot tell doubles apart.
    private bool _handedOver;

    public async Task RunAsync(DeliveryRow claimed)
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
                [],
                new SendResult(_handedOver ? SendOutcome.Lost : SendOutcome.NotTaken, $"It could not be made here: {e.Message}")
            );
        }
    }

    // Then nothing can be put on record either; the lease runs out, and another try follows.
    private static bool IsOutage(Exception e) =>
        e is NpgsqlException { IsTransient: true } or { InnerException: NpgsqlException { IsTransient: true } };

    private async Task TryAsync(DeliveryRow claimed)
    {
        var destination = destinations.Single(d => d.Key == claimed.Destination);
        if (claimed.HandedOverAt is not null && !await ResolveLostHandOverAsync(claimed))
        {
            return;
        }

        var sent = await PrepareAsync(claimed);
        var result = claimed is { Receipt: { } receipt, Artefact: null }
            ? await FetchAsync(destination, receipt)
            : await destination.SendAsync(
                destination.Render(sent, claimed.Sequence),
                $"{claimed.OrderId:N}/{claimed.Destination}/{claimed.Sequence}",
                () => HandingOverAsync(destination, claimed),
                CancellationToken.None
            );
        log.Milestone("delivery.handed_over", claimed.OrderId, claimed.Destination);
        if (result.Outcome != SendOutcome.Taken)
        {
            await SettleAsync(claimed, sent, [], result);
            return;
        }

        var findings = ReadBack(destination, result.Artefact!, sent);
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
                [],
                new SendResult(SendOutcome.Taken, $"{result.Detail} What was found there could not be kept.", result.Receipt)
            );
        }
    }

    private async Task<SentOrder> PrepareAsync(DeliveryRow claimed)
    {
        var order = (await orders.FindAsync(claimed.OrderId, CancellationToken.None))!;
        var (version, _) = await current.GetAsync(CancellationToken.None);

        // What was taken is read back as it was sent, whatever the routes say since.
        var projection = claimed is { Receipt: not null, Artefact: null, Projection: { } kept }
            ? JsonSerializer.Deserialize<Projection>(kept, DocumentJson.Options)!
            : Projector.Project(order.Content, version.Plan, claimed.Destination);
        return new SentOrder(order.Id, order.Number, order.PlacedAt, order.Content, projection)
        {
            PriceRows = order.Content.Prices.RowsAt(version.Plan, claimed.Destination, order.Content, projection),
            Leaving = version.Plan.Content.Codes.Leaves.GetValueOrDefault(claimed.Destination),
        };
    }

    private static async Task<SendResult> FetchAsync(IDeliveredDestination destination, string receipt) =>
        await destination.FetchAsync(receipt, CancellationToken.None) is { } record
            ? new SendResult(SendOutcome.Taken, "Read back.", receipt, record)
            : new SendResult(SendOutcome.TakenUnread, "It could not be read back yet.", receipt);

    // A reader that fails proves nothing, and says so of every answer.
    private List<SlotFinding> ReadBack(IDeliveredDestination destination, byte[] artefact, SentOrder sent)
    {
        try
        {
            return [.. destination.ReadBack(artefact, sent)];
        }
        catch (Exception e)
        {
            log.LogError(e, "What {Destination} has of {Order} could not be read", destination.Key, sent.Id);
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

    private async Task HandingOverAsync(IDeliveredDestination destination, DeliveryRow claimed)
    {
        if (!destination.TellsDoublesApart)
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
    private async Task<bool> ResolveLostHandOverAsync(DeliveryRow claimed)
    {
        if (claimed.WasUncertain)
        {
            claimed.State = DeliveryState.Uncertain;
            claimed.SettledAt = clock.GetUtcNow();
            await queue.SettleAsync(
                claimed,
                Try(
                    claimed,
                    DeliveryState.Uncertain,
                    "Handed over again, and again nothing on record of how it ended. It is not sent a third time."
                ),
                [],
                CancellationToken.None
            );
            return false;
        }

        var lost = Try(
            claimed,
            DeliveryState.Uncertain,
            "Handed over, and nothing on record of how it ended: this server or its database stopped in between. Sent once more under the same Message-ID."
        );
        if (!await queue.MarkUncertainAsync(claimed, lost, CancellationToken.None))
        {
            return false;
        }

        (claimed.WasUncertain, claimed.HandedOverAt) = (true, null);
        return true;
    }

    private async Task SettleAsync(DeliveryRow claimed, SentOrder? sent, IReadOnlyList<SlotFinding> findings, SendResult result)
    {
        var now = clock.GetUtcNow();
        claimed.HandedOverAt = null;
        claimed.SettledAt = now;
        switch (result.Outcome)
        {
            case SendOutcome.Taken:
                claimed.State = DeliveryState.Sent;
                break;
            case SendOutcome.Refused:
                claimed.State = DeliveryState.Refused;
                break;
            case SendOutcome.Lost when claimed.WasUncertain:
                claimed.State = DeliveryState.Uncertain;
                break;
            case SendOutcome.Lost:
                claimed.State = DeliveryState.Uncertain;
                claimed.WasUncertain = true;
                claimed.NextTryAt = now + RetrySchedule.PauseAfter(1, Random.Shared.NextDouble())!.Value;
                claimed.SettledAt = null;
                break;
            default:
                var pause = RetrySchedule.PauseAfter(claimed.Tries, Random.Shared.NextDouble());
                claimed.State =
                    pause is null ? DeliveryState.NeedsAttention
                    : claimed.WasUncertain ? DeliveryState.Uncertain
                    : DeliveryState.Waiting;
                claimed.NextTryAt = now + (pause ?? TimeSpan.Zero);
                claimed.SettledAt = pause is null ? now : null;
                break;
        }

        claimed.Artefact = result.Artefact ?? claimed.Artefact;
        claimed.Receipt = result.Receipt ?? claimed.Receipt;
        if (sent is not null && (result.Artefact is not null || result.Outcome == SendOutcome.TakenUnread))
        {
            claimed.Projection = JsonSerializer.Serialize(sent.Projection, DocumentJson.Options);
        }

        if (
            await queue.SettleAsync(
                claimed,
                Try(claimed, claimed.State, result.Detail),
                [.. findings.Select(f => Row(claimed, f, now))],
                CancellationToken.None
            )
        )
        {
            log.Milestone("delivery.settled", claimed.OrderId, claimed.Destination);
        }
    }

    private DeliveryTryRow Try(DeliveryRow claimed, DeliveryState outcome, string detail) =>
        new()
        {
            OrderId = claimed.OrderId,
            Destination = claimed.Destination,
            At = clock.GetUtcNow(),
            Outcome = outcome,
            Detail = detail,
        };

    private static FindingRow Row(DeliveryRow claimed, SlotFinding finding, DateTimeOffset at) =>
        new()
        {
            OrderId = claimed.OrderId,
            Destination = claimed.Destination,
            Slot = finding.Slot,
            Part = finding.Part,
            Expected = finding.Expected,
            Found = finding.Found,
            Finding = finding.Finding,
            At = at,
        };

    private sealed class OvertakenException : Exception;
}
