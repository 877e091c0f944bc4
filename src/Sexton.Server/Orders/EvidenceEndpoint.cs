using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Facts;
using Sexton.Core.Orders;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Data;
using Sexton.Destinations;
using Sexton.Destinations.Pages;
using Sexton.Server.Accounts;
using Sexton.Server.Common;

namespace Sexton.Server.Orders;

/// <summary>The evidence of one answer at one destination: given, expected, found, the artefact, and every try.</summary>
internal static class EvidenceEndpoint
{
    public static async Task<EvidenceView> ReadAsync(
        string number,
        string destination,
        string slot,
        ClaimsPrincipal user,
        OrderReader orders,
        TrailReader trails,
        CoveredAnswers covered,
        SextonDb db,
        CancellationToken cancel
    )
    {
        var order = await orders.FindAsync(number, cancel);
        var answer =
            order.Content.Answers.FirstOrDefault(a => a.Slot.ToString() == slot)
            ?? throw ApiProblemException.NotFound($"Order {number} has no answer at “{slot}”.");
        var trail = await trails.ReadAsync(order, cancel);
        var known =
            trail.Plan.Destinations.Find(destination) ?? throw ApiProblemException.NotFound($"There is no destination “{destination}”.");
        var there = trail.Of(answer, destination);
        var seen = Seen(order, answer, there);
        await covered.LookAsync(order, seen, Actor.Of(user), cancel);
        var happenings = await HappeningsAsync(db, there, cancel);
        happenings.AddRange(
            (await covered.OfAsync(order.Id, slot, cancel)).Select(static l => new HappeningView(l.At, $"{l.Name} looked at it.", null))
        );
        return new EvidenceView(
            known.Phrase,
            answer.Label,
            trail.MarkOf(answer, destination),
            answer.Value?.Files is { } files ? Entry.ProofOf(files) : answer.Text,
            there.Projection.Entries.FirstOrDefault(e => e.Slot == answer.Slot && e.Given is not null) is { } adapted
                ? new AdaptedView(adapted.Text, adapted.Rest)
                : null,
            [
                .. FindingsOf(order, there, known)
                    .Where(f => f.Slot == slot && f.Expected.Length > 0)
                    .Select(f => new FoundView(f.Part, f.Found, f.Finding, TextDifference.Describe(f.Expected, f.Found))),
            ],
            PartsOf(known, there, slot),
            there.Lane?.Receipt,
            WhyLeftOut(trail, answer, known),
            happenings,
            there.Lane is { } lane && LaneTransitions.CanBeSentAgain(lane.State),
            there.Lane is { SettledAt: null } open ? open.NextTryAt : null
        );
    }

    // Of what is read here: the answer itself, and all that stand in the same artefact.
    private static IReadOnlyList<SlotId> Seen(StoredOrder order, OrderAnswer answer, DestinationTrail there) =>
        [
            .. CoveredAnswers
                .Of(order)
                .Where(c => c == answer.Slot || (there.Artefact is not null && there.View is null && there.Expected.Contains(c))),
        ];

    // What agrees is only counted, and so the artefact is read once more, as long as it is there.
    private static IEnumerable<SlotFinding> FindingsOf(StoredOrder order, DestinationTrail there, BoundDestination destination) =>
        there is { Artefact: { } artefact, IsSent: true } && destination.Kind is DeliveredKind kind && there.Agreed != Finding.None
            ? kind.ReadBack(
                artefact,
                new SentOrder(order.Id, order.Number, order.PlacedAt, order.Content, there.Projection, destination) { Part = there.Part }
            )
            : there.Findings;

    private static async Task<List<HappeningView>> HappeningsAsync(SextonDb db, DestinationTrail there, CancellationToken cancel)
    {
        if (there.View is { } view)
        {
            var served = new List<HappeningView> { new(view.FirstAt, "Served for the first time.", null) };
            if (view.Times > 1)
            {
                served.Add(new HappeningView(view.LastAt, $"Last served; {view.Times} times in all.", null));
            }

            return served;
        }

        return there.Lane is null
            ? []
            : await db
                .Tries.AsNoTracking()
                .Where(t => t.LaneId == there.Lane.Id)
                .OrderBy(t => t.Id)
                .Select(t => new HappeningView(t.At, t.Detail, t.Outcome))
                .ToListAsync(cancel);
    }

    private static string? WhyLeftOut(OrderTrail trail, OrderAnswer answer, BoundDestination destination) =>
        trail.MarkOf(answer, destination.Key).Expectation == Expectation.LeftOut && trail.Plan.Find(answer.Field) is { } planned
            ? destination.WhyNot(planned.Key, planned.Rule, planned.Level, planned.Field.Privacy)
            : null;

    private static IReadOnlyList<ArtefactPart> PartsOf(BoundDestination destination, DestinationTrail there, string slot) =>
        there.Artefact is not { } bytes ? []
        : destination.Kind is DeliveredKind kind ? kind.PartsOf(bytes, there.Projection, slot)
        : PageReader.PartsOf(bytes, slot);
}

/// <summary>The evidence of one answer at one destination.</summary>
/// <param name="Destination">What a sentence calls the destination.</param>
/// <param name="Label">The question.</param>
/// <param name="Mark">The mark.</param>
/// <param name="Given">The answer as given; of files, what tells each of them.</param>
/// <param name="Adapted">The text that was agreed to stand there instead; null where it stands there as given.</param>
/// <param name="Found">What each part of the artefact shows.</param>
/// <param name="Artefact">The parts of the artefact.</param>
/// <param name="Receipt">What the other side gave in return.</param>
/// <param name="LeftOut">Why the answer could not go there, and nobody chose so; null where that is not so.</param>
/// <param name="Happenings">Every try and serving.</param>
/// <param name="CanSendAgain">Whether it can be sent again.</param>
/// <param name="NextTryAt">When it is tried next, or null.</param>
internal sealed record EvidenceView(
    string Destination,
    string Label,
    MarkView Mark,
    string Given,
    AdaptedView? Adapted,
    IReadOnlyList<FoundView> Found,
    IReadOnlyList<ArtefactPart> Artefact,
    string? Receipt,
    string? LeftOut,
    IReadOnlyList<HappeningView> Happenings,
    bool CanSendAgain,
    DateTimeOffset? NextTryAt
);

/// <summary>An answer as it was fitted to what a destination takes.</summary>
/// <param name="Text">What stands in its place.</param>
/// <param name="Rest">What goes on in the note; null for nothing.</param>
internal sealed record AdaptedView(string Text, string? Rest);

/// <summary>What one part shows.</summary>
internal sealed record FoundView(string Part, string? Text, Finding Finding, string Difference);

/// <summary>Something that happened.</summary>
internal sealed record HappeningView(DateTimeOffset At, string What, DeliveryState? Outcome);
