using Microsoft.EntityFrameworkCore;
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
        var lanes = (await db.Lanes.AsNoTracking().Where(l => l.OrderId == order.Id).ToListAsync(cancel))
            .OrderBy(l => order.Content.PlaceOf(l.Part))
            .ToList();
        var ids = lanes.ConvertAll(static l => l.Id);
        var payloads = await db.Payloads.AsNoTracking().Where(p => ids.Contains(p.LaneId)).ToListAsync(cancel);
        var findings = await db.Findings.AsNoTracking().Where(f => ids.Contains(f.LaneId)).ToListAsync(cancel);
        var views = await db.PageViews.AsNoTracking().Where(s => s.OrderId == order.Id).ToListAsync(cancel);
        var looked = await db.Looks.Where(l => l.OrderId == order.Id).Select(static l => l.Slot).Distinct().ToListAsync(cancel);
        var trails = new List<DestinationTrail>();
        var facts = new OrderFacts(order.Content);
        foreach (var destination in version.Plan.Destinations.All)
        {
            // None of its lines is made at this workbench, or not any more.
            if (!destination.Kind.IsDelivered && !OrderParts.Of(facts, destination).Any())
            {
                continue;
            }

            if (views.Find(v => v.Destination == destination.Key) is { } view)
            {
                trails.Add(await OfViewAsync(order, view, looked, version.Plan, cancel));
            }
            else if (!destination.Kind.IsDelivered)
            {
                trails.Add(
                    new DestinationTrail(
                        destination.Key,
                        OrderPart.Whole,
                        Expected(order, destination.Key, OrderPart.Whole, version.Plan),
                        []
                    )
                );
            }

            // Where there is no lane nothing of it goes: it was made later, or its condition picks nothing of the order.
            foreach (var lane in lanes.Where(l => l.Destination == destination.Key && l.State != DeliveryState.Withdrawn))
            {
                trails.Add(await OfLaneAsync(order, lane, payloads, findings, version.Plan, cancel));
            }
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
            return new DestinationTrail(view.Destination, OrderPart.Whole, Expected(order, view.Destination, OrderPart.Whole, current), [])
            {
                View = view,
            };
        }

        var projection = StoredPayload.OpenProjection(view.Projection, await orders.AnswersAsync(order, view.Revision, cancel), order.Key);
        if (current.Destinations.Find(view.Destination)?.Kind.Makes == true)
        {
            // A line that was given to another since is no concern of this workbench any more.
            projection = projection.Within(Expected(order, view.Destination, OrderPart.Whole, current));
        }

        var artefact = view.Artefact.Length == 0 ? null : StoredPayload.OpenArtefact(view.Artefact, order.Key);
        var covered = CoveredAnswers.At(current.Destinations.Find(view.Destination), order);
        var judged = projection.Without(covered).AsOrdered(order.Content);
        var shown = covered.Where(c => looked.Contains(c.ToString())).Select(static c => SlotFinding.Seen(c, PageReader.Part));
        return new DestinationTrail(
            view.Destination,
            OrderPart.Whole,
            projection,
            [.. (artefact is null ? [] : PageReader.ReadBack(artefact, judged)).Concat(shown)]
        )
        {
            View = view,
            Artefact = artefact,
        };
    }

    private async Task<DestinationTrail> OfLaneAsync(
        StoredOrder order,
        LaneRow lane,
        IReadOnlyList<PayloadRow> payloads,
        IReadOnlyList<FindingRow> findings,
        RegisterPlan current,
        CancellationToken cancel
    )
    {
        // The newest that has something to show: what was sent counts as it was sent, and what is still to come follows the current routes.
        var payload = payloads
            .Where(p => p.LaneId == lane.Id && p.Projection.Length > 0)
            .OrderByDescending(static p => p.Sequence)
            .FirstOrDefault();
        if (payload is null || order.Key is null)
        {
            return new DestinationTrail(lane.Destination, lane.Part, Expected(order, lane.Destination, lane.Part, current), [])
            {
                Lane = lane,
            };
        }

        var sent = StoredPayload.OpenProjection(payload.Projection, await orders.AnswersAsync(order, payload.Revision, cancel), order.Key);
        return new DestinationTrail(
            lane.Destination,
            lane.Part,
            sent,
            [
                .. findings
                    .Where(f => f.LaneId == payload.LaneId && f.Sequence == payload.Sequence)
                    .Select(f => StoredPayload.Read(f, order.Key)),
            ]
        )
        {
            Lane = lane,
            Agreed = payload.Agreed,
            IsSent = true,
            Artefact = payload.Artefact is null ? null : StoredPayload.OpenArtefact(payload.Artefact, order.Key),
        };
    }

    private static Projection Expected(StoredOrder order, string destination, OrderPart part, RegisterPlan current) =>
        order.ProjectedOn(current, destination, part);
}

/// <summary>The trail of an order.</summary>
/// <param name="Destinations">What happened at each destination, in their order; several of one that goes by lines or units.</param>
/// <param name="Plan">The register as it is now.</param>
internal sealed record OrderTrail(IReadOnlyList<DestinationTrail> Destinations, RegisterPlan Plan)
{
    // What somebody must look at first.
    private static readonly Sign[] Gravest =
    [
        Sign.TornSheet,
        Sign.DottedOutline,
        Sign.RaisedFlag,
        Sign.OpenSheet,
        Sign.CutFoldedSheet,
        Sign.FoldedSheet,
        Sign.CutSealedSheet,
        Sign.SealedSheet,
    ];

    /// <summary>What happened at one destination.</summary>
    public IEnumerable<DestinationTrail> At(string destination) => Destinations.Where(p => p.Destination == destination);

    /// <summary>What happened to one answer at one destination; where it went several times, the gravest of it.</summary>
    public DestinationTrail Of(OrderAnswer answer, string destination) =>
        At(destination)
            .Where(t => t.Part.Has(answer.LineId, answer.UnitId))
            .OrderBy(t => Array.IndexOf(Gravest, MarkOf(answer, t).Sign) is >= 0 and var at ? at : Gravest.Length)
            .FirstOrDefault()
        ?? new DestinationTrail(destination, OrderPart.Whole, new Projection([]), []);

    /// <summary>What one answer is to show at one destination.</summary>
    public MarkView MarkOf(OrderAnswer answer, string destination) => MarkOf(answer, Of(answer, destination));

    private MarkView MarkOf(OrderAnswer answer, DestinationTrail there)
    {
        var (expectation, finding, state) = (there.ExpectationOf(answer, Plan), there.FindingOf(answer.Slot), there.Lane?.State);
        return new MarkView(
            there.Destination,
            TrailSign.Of(expectation, finding, state),
            expectation,
            finding,
            state,
            there.Lane is { State: DeliveryState.NotReleased } lane && lane.NextTryAt < LaneRow.Held ? lane.NextTryAt : null,
            there.Lane is { Wanted: 0 }
        );
    }
}

/// <summary>What happened at one destination, to an order or a part of it.</summary>
/// <param name="Destination">Its key.</param>
/// <param name="Part">The part of the order.</param>
/// <param name="Projection">What is expected there: what was sent, or is to be sent.</param>
/// <param name="Findings">What was found slot by slot, as far as it is kept so.</param>
internal sealed record DestinationTrail(string Destination, OrderPart Part, Projection Projection, IReadOnlyList<SlotFinding> Findings)
    : DestinationFindings(Destination, Projection, Findings)
{
    /// <summary>The lane; null for a page.</summary>
    public LaneRow? Lane { get; init; }

    /// <summary>What was served; null for what is delivered, and for a page that nobody opened.</summary>
    public PageViewRow? View { get; init; }

    /// <summary>Whether the projection is what was sent.</summary>
    public bool IsSent { get; init; }

    /// <summary>The artefact; null before, and when its time is over.</summary>
    public byte[]? Artefact { get; init; }
}

/// <summary>One mark of the thread.</summary>
/// <param name="Destination">The key of the destination.</param>
/// <param name="Sign">The sign.</param>
/// <param name="Expectation">What was expected.</param>
/// <param name="Finding">What was found.</param>
/// <param name="Delivery">How the delivery stands; null for a page.</param>
/// <param name="NotBefore">The day on which it goes, where it waits for one.</param>
/// <param name="NothingYet">Whether nothing happened yet that is told there.</param>
internal sealed record MarkView(
    string Destination,
    Sign Sign,
    Expectation Expectation,
    Finding Finding,
    DeliveryState? Delivery,
    DateTimeOffset? NotBefore,
    bool NothingYet
);
