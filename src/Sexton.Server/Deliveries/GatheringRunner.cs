using System.Globalization;
using System.Security.Cryptography;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Data.Queue;
using Sexton.Data.Rows;
using Sexton.Destinations;
using Sexton.Destinations.Drop;
using Sexton.Server.Common;
using Sexton.Server.Versions;

namespace Sexton.Server.Deliveries;

/// <summary>
/// Makes one try of what goes to a destination as one. Each order in it has its own lane, its own evidence, which is its section, and its own end; one that cannot go
/// is left out and named, and holds nobody back.
/// </summary>
internal sealed class GatheringRunner(
    GatheringQueue gathering,
    LaneQueue queue,
    Sendings sendings,
    LaneSettler settler,
    CurrentRegister current,
    ILogger<GatheringRunner> log
)
{
    public async Task RunAsync(Gathered gathered)
    {
        var (version, _) = await current.GetAsync(CancellationToken.None);
        if (version.Plan.Destinations.Find(gathered.Row.Destination) is not { Kind: DeliveredKind kind and IGathers gathers } to)
        {
            throw new InvalidOperationException($"“{gathered.Row.Destination}” gathers nothing any more.");
        }

        var sent = new List<(LaneRow Lane, Sending Sending)>();
        foreach (var lane in gathered.Lanes)
        {
            log.Milestone("delivery.claimed", lane.OrderId, lane.Destination);
            if (await PrepareAsync(gathered.Row, lane, version.Plan, to) is { } sending)
            {
                sent.Add((lane, sending));
            }
        }

        if (sent.Count == 0)
        {
            return;
        }

        var result = await SendAsync(kind, gathers, gathered.Row, to, [.. sent.Select(static s => s.Sending.Order)]);
        var ends = new List<Settlement>();
        foreach (var (lane, sending) in sent)
        {
            ends.Add(await EndAsync(kind, gathers, lane, to, sending, result));
        }

        // All or none: who was settled would be missing from what is made of the rest.
        await settler.SettleAsync(ends, result.Outcome, result.Detail);
        if (result.Outcome != SendOutcome.Taken)
        {
            // Who was given up, or is to be sent again by hand, goes with what is gathered next.
            await gathering.LeaveAsync(
                gathered.Row.Id,
                [.. sent.Select(static s => s.Lane).Where(static l => l.SettledAt is not null).Select(static l => l.Id)],
                CancellationToken.None
            );
        }
    }

    // Null where it cannot go: then it is left out.
    private async Task<Sending?> PrepareAsync(GatheredRow row, LaneRow lane, Core.Plan.RegisterPlan plan, BoundDestination to)
    {
        SendResult why;
        try
        {
            var sending = await sendings.PrepareAsync(lane, plan, to);
            if (sending.Order.WhyStops is not { } stops)
            {
                return sending;
            }

            why = new SendResult(SendOutcome.Stopped, stops);
        }
        catch (Exception e) when (!DeliveryRunner.IsOutage(e))
        {
            log.LogError(e, "{Order} could not be gathered for {Destination}", lane.OrderId, lane.Destination);
            queue.Forget();
            why = new SendResult(SendOutcome.NotTaken, $"It could not be made here: {e.Message}");
        }

        await settler.SettleAsync(lane, to, null, null, why);
        await gathering.LeaveAsync(row.Id, [lane.Id], CancellationToken.None);
        return null;
    }

    private async Task<SendResult> SendAsync(
        DeliveredKind kind,
        IGathers gathers,
        GatheredRow row,
        BoundDestination to,
        IReadOnlyList<SentOrder> orders
    )
    {
        try
        {
            var whole = gathers.RenderMany(orders);
            await gathering.SendingAsync(row.Id, SHA256.HashData(whole), CancellationToken.None);
            return await kind.SendAsync(
                to,
                whole,
                new Handover(
                    string.Create(CultureInfo.InvariantCulture, $"gathered/{row.Id}"),
                    ReturnAddresses.ReferenceOf(0, 0),
                    NameOf(row),
                    static () => Task.CompletedTask
                )
                {
                    MayBeThere = row.Hash,
                },
                CancellationToken.None
            );
        }
        catch (Exception e) when (!DeliveryRunner.IsOutage(e))
        {
            log.LogError(e, "What was gathered for {Destination} could not be sent", row.Destination);
            return new SendResult(SendOutcome.NotTaken, $"It could not be made here: {e.Message}");
        }
    }

    private async Task<Settlement> EndAsync(
        DeliveredKind kind,
        IGathers gathers,
        LaneRow lane,
        BoundDestination to,
        Sending sending,
        SendResult result
    )
    {
        if (result is not { Outcome: SendOutcome.Taken, Artefact: { } whole })
        {
            // All of it is about others, too.
            return await settler.EndAsync(lane, to, sending, null, result with { Artefact = null });
        }

        log.Milestone("delivery.handed_over", lane.OrderId, lane.Destination);
        var section = gathers.SectionOf(whole, sending.Order) ?? [];
        return await settler.EndAsync(
            lane,
            to,
            sending,
            sendings.ReadBack(kind, section, sending.Order),
            result with
            {
                Artefact = section,
            }
        );
    }

    private static string NameOf(GatheredRow row) =>
        string.Create(CultureInfo.InvariantCulture, $"{row.Day:yyyy-MM-dd}{(row.Number > 1 ? $"-{row.Number}" : "")}");
}
