using System.Globalization;
using System.Security.Cryptography;
using Sexton.Core.Plan;
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
        if (version.Plan.Destinations.Find(gathered.Row.Destination) is not { Kind: GatheringKind kind } to)
        {
            throw new InvalidOperationException($"“{gathered.Row.Destination}” gathers nothing any more.");
        }

        var at = Landing.At(to, version.Plan);
        var sent = new List<(LaneRow Lane, Sending Sending)>();
        foreach (var lane in gathered.Lanes)
        {
            log.Milestone("delivery.claimed", lane.OrderId, lane.Destination);
            if (await PrepareAsync(gathered.Row, lane, version.Plan, at) is { } sending)
            {
                sent.Add((lane, sending));
            }
        }

        if (sent.Count == 0)
        {
            return;
        }

        IReadOnlyList<SentOrder> orders = [.. sent.Select(static s => s.Sending.Order)];
        var result = await SendAsync(kind, gathered.Row, to, orders);
        var sections = result is { Outcome: SendOutcome.Taken, Artefact: { } whole } ? SectionsOf(kind, whole, orders) : null;
        try
        {
            await SettleAsync(sent, result, (lane, sending) => End(kind, lane, at, sending, result, sections));
        }
        catch (Exception e) when (!DeliveryRunner.IsOutage(e))
        {
            // What was taken must not be sent again because we cannot keep what was found.
            log.LogError(e, "What was found of what was gathered for {Destination} could not be kept", gathered.Row.Destination);
            queue.Forget();
            var plain = result with { Artefact = null, Detail = $"{result.Detail} What was found there could not be kept." };
            await SettleAsync(sent, result, (lane, _) => settler.End(lane, at, null, null, plain));
        }

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
    private async Task<Sending?> PrepareAsync(GatheredRow row, LaneRow lane, RegisterPlan plan, Landing at)
    {
        SendResult why;
        try
        {
            var sending = await sendings.PrepareAsync(lane, plan, at.To);
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

        await settler.SettleAsync(lane, at, null, null, why);
        await gathering.LeaveAsync(row.Id, [lane.Id], CancellationToken.None);
        return null;
    }

    private async Task<SendResult> SendAsync(GatheringKind kind, GatheredRow row, BoundDestination to, IReadOnlyList<SentOrder> orders)
    {
        try
        {
            var whole = kind.RenderMany(orders);
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

    // A reader that fails proves nothing: then nothing of anybody is found.
    private IReadOnlyDictionary<Guid, byte[]> SectionsOf(GatheringKind kind, byte[] whole, IReadOnlyList<SentOrder> orders)
    {
        try
        {
            return kind.SectionsOf(whole, orders);
        }
        catch (Exception e)
        {
            log.LogError(e, "What was gathered for {Destination} could not be read", orders[0].To.Key);
            return new Dictionary<Guid, byte[]>();
        }
    }

    // All or none: who was settled would be missing from what is made of the rest.
    private Task SettleAsync(List<(LaneRow Lane, Sending Sending)> sent, SendResult result, Func<LaneRow, Sending, Settlement> end) =>
        settler.SettleAsync(sent.ConvertAll(s => end(s.Lane, s.Sending)), result.Outcome, result.Detail);

    private Settlement End(
        GatheringKind kind,
        LaneRow lane,
        Landing at,
        Sending sending,
        SendResult result,
        IReadOnlyDictionary<Guid, byte[]>? sections
    )
    {
        if (sections is null)
        {
            // All of it is about others, too.
            return settler.End(lane, at, sending, null, result with { Artefact = null });
        }

        log.Milestone("delivery.handed_over", lane.OrderId, lane.Destination);
        var section = sections.GetValueOrDefault(sending.Order.Id) ?? [];
        return settler.End(lane, at, sending, sendings.ReadBack(kind, section, sending.Order), result with { Artefact = section });
    }

    private static string NameOf(GatheredRow row) =>
        string.Create(CultureInfo.InvariantCulture, $"{row.Day:yyyy-MM-dd}{(row.Number > 1 ? $"-{row.Number}" : "")}");
}
