using System.Text.Json;
using Sexton.Core.Register;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Data.Queue;
using Sexton.Data.Rows;
using Sexton.Destinations;
using Sexton.Server.Hosting;
using Sexton.Server.Orders;
using Sexton.Server.Versions;

namespace Sexton.Server.Deliveries;

/// <summary>
/// Makes one try of a claimed delivery: project, render, send, read back, settle. It is not cancelled when the server stops,
/// since a message half handed over would become uncertain for nothing; every wait in it has a limit.
/// </summary>
internal sealed class DeliveryRunner(
    DeliveryQueue queue,
    OrderReader orders,
    CurrentRegister current,
    IEnumerable<IDeliveredDestination> destinations,
    TimeProvider clock,
    ILogger<DeliveryRunner> log)
{
    public async Task RunAsync(DeliveryRow claimed)
    {
        log.Milestone("delivery.claimed", claimed.OrderId, claimed.Destination);
        var destination = destinations.Single(d => d.Key == claimed.Destination);
        if (claimed.HandedOverAt is not null && !await ResolveLostHandOverAsync(claimed))
        {
            return;
        }

        var order = (await orders.FindAsync(claimed.OrderId, CancellationToken.None))!;
        var (version, _) = await current.GetAsync(CancellationToken.None);
        var projection = Projector.Project(order.Content, version.Plan, claimed.Destination);
        var sent = new SentOrder(order.Id, order.Number, order.PlacedAt, order.Content, projection)
        {
            PriceRows = order.Content.Prices.RowsAt(version.Plan, claimed.Destination),
            Leaving = version.Plan.Content.Codes.Leaves.GetValueOrDefault(claimed.Destination),
        };
        SendResult result;
        try
        {
            result = await destination.SendAsync(
                destination.Render(sent, claimed.Sequence),
                $"{order.Id:N}/{claimed.Destination}/{claimed.Sequence}",
                () => HandingOverAsync(destination, claimed),
                CancellationToken.None);
        }
        catch (OvertakenException)
        {
            // The lease ran out and another worker has it; its try counts.
            return;
        }

        log.Milestone("delivery.handed_over", claimed.OrderId, claimed.Destination);
        await SettleAsync(claimed, destination, sent, result);
    }

    private async Task HandingOverAsync(IDeliveredDestination destination, DeliveryRow claimed)
    {
        if (!destination.TellsDoublesApart && !await queue.MarkHandingOverAsync(claimed, clock.GetUtcNow(), CancellationToken.None))
        {
            throw new OvertakenException();
        }

        log.Milestone("delivery.handing_over", claimed.OrderId, claimed.Destination);
    }

    // A worker died between the mark and the acknowledgement. Nobody can say whether the message was taken: that is put on record,
    // and it is sent once more under the same number; if that happened before, it stays uncertain.
    private async Task<bool> ResolveLostHandOverAsync(DeliveryRow claimed)
    {
        if (claimed.WasUncertain)
        {
            claimed.State = DeliveryState.Uncertain;
            claimed.SettledAt = clock.GetUtcNow();
            await queue.SettleAsync(claimed, Try(claimed, DeliveryState.Uncertain, "The server stopped again while handing over. It is not sent a third time."), [], CancellationToken.None);
            return false;
        }

        var lost = Try(claimed, DeliveryState.Uncertain, "The server stopped while handing over. Sent once more under the same Message-ID.");
        if (!await queue.MarkUncertainAsync(claimed, lost, CancellationToken.None))
        {
            return false;
        }

        (claimed.WasUncertain, claimed.HandedOverAt) = (true, null);
        return true;
    }

    private async Task SettleAsync(DeliveryRow claimed, IDeliveredDestination destination, SentOrder sent, SendResult result)
    {
        var now = clock.GetUtcNow();
        IReadOnlyList<FindingRow> findings = [];
        claimed.HandedOverAt = null;
        claimed.SettledAt = now;
        switch (result.Outcome)
        {
            case SendOutcome.Taken:
                claimed.State = DeliveryState.Sent;
                findings = [.. destination.ReadBack(result.Artefact!, sent).Select(f => Row(claimed, f, now))];
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
                claimed.State = pause is null ? DeliveryState.NeedsAttention : claimed.WasUncertain ? DeliveryState.Uncertain : DeliveryState.Waiting;
                claimed.NextTryAt = now + (pause ?? TimeSpan.Zero);
                claimed.SettledAt = pause is null ? now : null;
                break;
        }

        if (result.Artefact is not null)
        {
            claimed.Artefact = result.Artefact;
            claimed.Projection = JsonSerializer.Serialize(sent.Projection, RegisterJson.Options);
        }

        claimed.Receipt = result.Receipt ?? claimed.Receipt;
        if (await queue.SettleAsync(claimed, Try(claimed, claimed.State, result.Detail), findings, CancellationToken.None))
        {
            log.Milestone("delivery.settled", claimed.OrderId, claimed.Destination);
        }
    }

    private DeliveryTryRow Try(DeliveryRow claimed, DeliveryState outcome, string detail) =>
        new() { OrderId = claimed.OrderId, Destination = claimed.Destination, At = clock.GetUtcNow(), Outcome = outcome, Detail = detail };

    private static FindingRow Row(DeliveryRow claimed, SlotFinding finding, DateTimeOffset at) => new()
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
