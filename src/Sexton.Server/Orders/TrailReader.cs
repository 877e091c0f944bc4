using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Facts;
using Sexton.Core.Orders;
using Sexton.Core.Plan;
using Sexton.Core.Projections;
using Sexton.Core.Register;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Destinations.Pages;
using Sexton.Server.Versions;

namespace Sexton.Server.Orders;

/// <summary>What happened to every answer of an order at every destination.</summary>
internal sealed class TrailReader(SextonDb db, CurrentRegister current)
{
    /// <summary>Reads the trail of an order.</summary>
    public async Task<OrderTrail> ReadAsync(StoredOrder order, CancellationToken cancel)
    {
        var (version, _) = await current.GetAsync(cancel);
        var deliveries = await db
            .Deliveries.AsNoTracking()
            .Where(d => d.OrderId == order.Id)
            .ToDictionaryAsync(d => d.Destination, StringComparer.Ordinal, cancel);
        var pageViews = await db
            .PageViews.AsNoTracking()
            .Where(s => s.OrderId == order.Id)
            .ToDictionaryAsync(s => s.Destination, StringComparer.Ordinal, cancel);
        var findings = await db.Findings.AsNoTracking().Where(f => f.OrderId == order.Id).ToListAsync(cancel);
        var all = new Dictionary<string, IReadOnlyList<SlotFinding>>(StringComparer.Ordinal);
        var expected = new Dictionary<string, HashSet<SlotId>>(StringComparer.Ordinal);
        foreach (var destination in DestinationIndex.All)
        {
            var serving = pageViews.GetValueOrDefault(destination.Key);
            var sent = serving?.Projection ?? deliveries.GetValueOrDefault(destination.Key)?.Projection;

            // What was sent counts as it was sent; what is still to come follows the current routes.
            var projection = sent is null
                ? Projector.Project(order.Content, version.Plan, destination.Key)
                : JsonSerializer.Deserialize<Projection>(sent, DocumentJson.Options)!;
            expected[destination.Key] = [.. projection.Entries.Select(e => e.Slot)];
            all[destination.Key] = serving is null
                ?
                [
                    .. findings
                        .Where(f => f.Destination == destination.Key)
                        .Select(f => new SlotFinding(f.Slot, f.Part, f.Expected, f.Found, f.Finding)),
                ]
                : [.. PageReader.ReadBack(serving.Artefact, AsOrdered(projection, order.Content))];
        }

        return new OrderTrail(expected, all, deliveries, pageViews, version.Plan);
    }

    // A cart page shows answers before they are ordered: what counts is whether it showed the answer that was.
    private static Projection AsOrdered(Projection shown, OrderContent order)
    {
        var given = order.Answers.Where(a => a.Value is not null).ToDictionary(a => a.Slot);
        return new Projection([
            .. shown
                .Entries.Where(e => given.ContainsKey(e.Slot))
                .Select(e => e with { Text = given[e.Slot].Text, Files = given[e.Slot].Value!.Files ?? [] }),
        ]);
    }
}

/// <summary>The trail of an order.</summary>
/// <param name="Expected">The slots expected at each destination.</param>
/// <param name="Findings">What was found there.</param>
/// <param name="Deliveries">The deliveries by destination.</param>
/// <param name="PageViews">The views by page.</param>
/// <param name="Plan">The register as it is now.</param>
internal sealed record OrderTrail(
    IReadOnlyDictionary<string, HashSet<SlotId>> Expected,
    IReadOnlyDictionary<string, IReadOnlyList<SlotFinding>> Findings,
    IReadOnlyDictionary<string, DeliveryRow> Deliveries,
    IReadOnlyDictionary<string, PageViewRow> PageViews,
    RegisterPlan Plan
)
{
    /// <summary>What one answer is to show at one destination.</summary>
    public MarkView MarkOf(OrderAnswer answer, string destination)
    {
        var slot = answer.Slot;
        var expectation =
            answer.Value is null ? Expectation.LeftEmpty
            : Expected[destination].Contains(slot) ? Expectation.Verbatim
            : Plan.Find(answer.Field)?.Field.LeftOut.Contains(destination) == true ? Expectation.LeftOut
            : Expectation.NotRouted;
        var finding = SlotFinding.Worst(Findings[destination].Where(f => f.Slot == slot.ToString()).Select(f => f.Finding));
        var delivery = Deliveries.GetValueOrDefault(destination)?.State;
        return new MarkView(destination, TrailSign.Of(expectation, finding, delivery), expectation, finding, delivery);
    }
}

/// <summary>One mark of the thread.</summary>
/// <param name="Destination">The key of the destination.</param>
/// <param name="Sign">The sign.</param>
/// <param name="Expectation">What was expected.</param>
/// <param name="Finding">What was found.</param>
/// <param name="Delivery">How the delivery stands; null for a page.</param>
internal sealed record MarkView(string Destination, Sign Sign, Expectation Expectation, Finding Finding, DeliveryState? Delivery);
