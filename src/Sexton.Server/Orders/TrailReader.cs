using Microsoft.EntityFrameworkCore;
using Sexton.Core.Facts;
using Sexton.Core.Orders;
using Sexton.Core.Plan;
using Sexton.Core.Projections;
using Sexton.Core.Trail;
using Sexton.Data;
using Sexton.Data.Queue;
using Sexton.Data.Rows;
using Sexton.Destinations.Pages;
using Sexton.Server.Versions;

namespace Sexton.Server.Orders;

/// <summary>What happened to every answer of an order at every destination.</summary>
internal sealed class TrailReader(SextonDb db, CurrentRegister current, OrderReader orders)
{
    /// <summary>Reads the trail of an order.</summary>
    public async Task<OrderTrail> ReadAsync(StoredOrder order, CancellationToken cancel)
    {
        var (version, _) = await current.GetAsync(cancel);
        var lanes = await db.Lanes.AsNoTracking().Where(l => l.OrderId == order.Id).ToListAsync(cancel);
        var ids = lanes.ConvertAll(static l => l.Id);
        var payloads = await db.Payloads.AsNoTracking().Where(p => ids.Contains(p.LaneId)).ToListAsync(cancel);
        var findings = await db.Findings.AsNoTracking().Where(f => ids.Contains(f.LaneId)).ToListAsync(cancel);
        var views = await db.PageViews.AsNoTracking().Where(s => s.OrderId == order.Id).ToListAsync(cancel);
        var looked = await db.Looks.Where(l => l.OrderId == order.Id).Select(static l => l.Slot).Distinct().ToListAsync(cancel);
        var trails = new List<DestinationTrail>();
        foreach (var destination in version.Plan.Destinations.All)
        {
            var view = views.Find(v => v.Destination == destination.Key);
            var lane = lanes.Find(l => l.Destination == destination.Key);
            trails.Add(
                view is not null ? await OfViewAsync(order, view, looked, version.Plan, cancel)
                // Made after the order was placed: nothing of it goes there.
                : lane is null && destination.Kind.IsDelivered ? new DestinationTrail(destination.Key, new HashSet<SlotId>(), [])
                : await OfLaneAsync(order, destination.Key, lane, payloads, findings, version.Plan, cancel)
            );
        }

        return new OrderTrail(trails, version.Plan);
    }

    private async Task<DestinationTrail> OfViewAsync(
        StoredOrder order,
        PageViewRow view,
        IReadOnlyList<string> looked,
        RegisterPlan current,
        CancellationToken cancel
    )
    {
        if (order.Key is null)
        {
            return new DestinationTrail(view.Destination, Expected(order, view.Destination, current), []) { View = view };
        }

        var projection = StoredPayload.OpenProjection(view.Projection, await orders.AnswersAsync(order, view.Revision, cancel), order.Key);
        var artefact = view.Artefact.Length == 0 ? null : StoredPayload.OpenArtefact(view.Artefact, order.Key);
        var covered = view.Destination == PageKind.OrderPage.Key ? CoveredAnswers.Of(order) : [];
        var judged = projection.Without(covered).AsOrdered(order.Content);
        var shown = covered.Where(c => looked.Contains(c.ToString())).Select(static c => SlotFinding.Seen(c, PageReader.Part));
        return new DestinationTrail(
            view.Destination,
            projection.Slots,
            [.. (artefact is null ? [] : PageReader.ReadBack(artefact, judged)).Concat(shown)]
        )
        {
            View = view,
            Artefact = artefact,
        };
    }

    private async Task<DestinationTrail> OfLaneAsync(
        StoredOrder order,
        string destination,
        LaneRow? lane,
        IReadOnlyList<PayloadRow> payloads,
        IReadOnlyList<FindingRow> findings,
        RegisterPlan current,
        CancellationToken cancel
    )
    {
        // The newest that has something to show: what was sent counts as it was sent, and what is still to come follows the current routes.
        var payload = payloads
            .Where(p => p.LaneId == lane?.Id && p.Projection.Length > 0)
            .OrderByDescending(static p => p.Sequence)
            .FirstOrDefault();
        if (payload is null || order.Key is null)
        {
            return new DestinationTrail(destination, Expected(order, destination, current), []) { Lane = lane };
        }

        var sent = StoredPayload.OpenProjection(payload.Projection, await orders.AnswersAsync(order, payload.Revision, cancel), order.Key);
        return new DestinationTrail(
            destination,
            sent.Slots,
            [
                .. findings
                    .Where(f => f.LaneId == payload.LaneId && f.Sequence == payload.Sequence)
                    .Select(f => StoredPayload.Read(f, order.Key)),
            ]
        )
        {
            Lane = lane,
            Agreed = payload.Agreed,
            Projection = sent,
            Artefact = payload.Artefact is null ? null : StoredPayload.OpenArtefact(payload.Artefact, order.Key),
        };
    }

    private static IReadOnlySet<SlotId> Expected(StoredOrder order, string destination, RegisterPlan current) =>
        order.ProjectedOn(current, destination).Slots;
}

/// <summary>The trail of an order.</summary>
/// <param name="Destinations">What happened at each destination, in their order.</param>
/// <param name="Plan">The register as it is now.</param>
internal sealed record OrderTrail(IReadOnlyList<DestinationTrail> Destinations, RegisterPlan Plan)
{
    /// <summary>What happened at one destination.</summary>
    public DestinationTrail At(string destination) => Destinations.First(p => p.Destination == destination);

    /// <summary>What one answer is to show at one destination.</summary>
    public MarkView MarkOf(OrderAnswer answer, string destination)
    {
        var there = At(destination);
        var (expectation, finding) = (there.ExpectationOf(answer, Plan), there.FindingOf(answer.Slot));
        return new MarkView(destination, TrailSign.Of(expectation, finding, there.Lane?.State), expectation, finding, there.Lane?.State);
    }
}

/// <summary>What happened at one destination.</summary>
/// <param name="Destination">Its key.</param>
/// <param name="Expected">The slots expected there.</param>
/// <param name="Findings">What was found slot by slot, as far as it is kept so.</param>
internal sealed record DestinationTrail(string Destination, IReadOnlySet<SlotId> Expected, IReadOnlyList<SlotFinding> Findings)
    : DestinationFindings(Destination, Expected, Findings)
{
    /// <summary>The lane; null for a page.</summary>
    public LaneRow? Lane { get; init; }

    /// <summary>What was served; null for what is delivered, and for a page that nobody opened.</summary>
    public PageViewRow? View { get; init; }

    /// <summary>The projection as sent; null before.</summary>
    public Projection? Projection { get; init; }

    /// <summary>The artefact; null before, and when its time is over.</summary>
    public byte[]? Artefact { get; init; }
}

/// <summary>One mark of the thread.</summary>
/// <param name="Destination">The key of the destination.</param>
/// <param name="Sign">The sign.</param>
/// <param name="Expectation">What was expected.</param>
/// <param name="Finding">What was found.</param>
/// <param name="Delivery">How the delivery stands; null for a page.</param>
internal sealed record MarkView(string Destination, Sign Sign, Expectation Expectation, Finding Finding, DeliveryState? Delivery);
