using System.Text;
using Microsoft.EntityFrameworkCore;
using MimeKit;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Data;
using Sexton.Server.Hosting;

namespace Sexton.Server.Orders;

/// <summary>The evidence of one answer at one destination: given, expected, found, the artefact, and every try.</summary>
internal static class EvidenceEndpoint
{
    public static async Task<EvidenceView> ReadAsync(
        string number,
        string destination,
        string slot,
        OrderReader orders,
        TrailReader trails,
        SextonDb db,
        CancellationToken cancel
    )
    {
        var order = await orders.FindAsync(number, cancel);
        var known = DestinationIndex.Find(destination) ?? throw ApiProblemException.NotFound($"There is no destination “{destination}”.");
        var answer =
            order.Content.Answers.FirstOrDefault(a => a.Slot.ToString() == slot)
            ?? throw ApiProblemException.NotFound($"Order {number} has no answer at “{slot}”.");
        var trail = await trails.ReadAsync(order, cancel);
        var (delivery, serving) = (trail.Deliveries.GetValueOrDefault(destination), trail.PageViews.GetValueOrDefault(destination));
        var tries = await db
            .DeliveryTries.AsNoTracking()
            .Where(t => t.OrderId == order.Id && t.Destination == destination)
            .OrderBy(t => t.Id)
            .Select(t => new HappeningView(t.At, t.Detail, t.Outcome))
            .ToListAsync(cancel);
        if (serving is not null)
        {
            tries.Add(new HappeningView(serving.FirstAt, "Served for the first time.", null));
            if (serving.Times > 1)
            {
                tries.Add(new HappeningView(serving.LastAt, $"Last served; {serving.Times} times in all.", null));
            }
        }

        return new EvidenceView(
            known.Phrase,
            answer.Label,
            trail.MarkOf(answer, destination),
            answer.Value?.Files is { } files ? Entry.ProofOf(files) : answer.Text,
            [
                .. trail
                    .Findings[destination]
                    .Where(f => f.Slot == slot)
                    .Select(f => new FoundView(f.Part, f.Found, f.Finding, TextDifference.Describe(f.Expected, f.Found))),
            ],
            ArtefactOf(destination, delivery?.Artefact ?? serving?.Artefact),
            delivery?.Receipt,
            tries,
            delivery?.State is DeliveryState.Refused or DeliveryState.NeedsAttention or DeliveryState.Waiting,
            delivery is { SettledAt: null } ? delivery.NextTryAt : null
        );
    }

    private static IReadOnlyList<ArtefactPart> ArtefactOf(string destination, byte[]? bytes)
    {
        if (bytes is null)
        {
            return [];
        }

        if (destination == DestinationIndex.ShopperEmail)
        {
            using var stream = new MemoryStream(bytes);
            using var message = MimeMessage.Load(stream);
            return
            [
                new("html", message.HtmlBody ?? ""),
                new("text", message.TextBody ?? ""),
                new("as sent", Encoding.UTF8.GetString(bytes)),
            ];
        }

        return [new("record", Encoding.UTF8.GetString(bytes))];
    }
}

/// <summary>The evidence of one answer at one destination.</summary>
/// <param name="Destination">What a sentence calls the destination.</param>
/// <param name="Label">The question.</param>
/// <param name="Mark">The mark.</param>
/// <param name="Given">The answer as given; of files, what tells each of them.</param>
/// <param name="Found">What each part of the artefact shows.</param>
/// <param name="Artefact">The parts of the artefact.</param>
/// <param name="Receipt">What the other side gave in return.</param>
/// <param name="Happenings">Every try and serving.</param>
/// <param name="CanSendAgain">Whether it can be sent again.</param>
/// <param name="NextTryAt">When it is tried next, or null.</param>
internal sealed record EvidenceView(
    string Destination,
    string Label,
    MarkView Mark,
    string Given,
    IReadOnlyList<FoundView> Found,
    IReadOnlyList<ArtefactPart> Artefact,
    string? Receipt,
    IReadOnlyList<HappeningView> Happenings,
    bool CanSendAgain,
    DateTimeOffset? NextTryAt
);

/// <summary>What one part shows.</summary>
internal sealed record FoundView(string Part, string? Text, Finding Finding, string Difference);

/// <summary>A part of an artefact.</summary>
internal sealed record ArtefactPart(string Name, string Content);

/// <summary>Something that happened.</summary>
internal sealed record HappeningView(DateTimeOffset At, string What, DeliveryState? Outcome);
