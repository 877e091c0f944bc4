using System.Collections.Immutable;
using Sexton.Core.Orders;
using Sexton.Core.Plan;
using Sexton.Core.Projections;
using Sexton.Destinations;
using Sexton.Destinations.Email;
using Sexton.Destinations.Papers;
using Sexton.Destinations.Papers.Printing;
using Sexton.Server.Deliveries;
using Sexton.Server.Papers;

namespace Sexton.Server.Fields;

/// <summary>The papers that a message of the draft would carry, where it is only looked at or tried out.</summary>
internal sealed class PapersTriedOut(PaperLinks links)
{
    /// <summary>What they would be called; nothing is printed.</summary>
    /// <param name="message">The message.</param>
    /// <param name="plan">The draft.</param>
    /// <param name="own">The register under which the order was placed.</param>
    public ImmutableArray<CarriedPaper> LookedAt(SentOrder message, RegisterPlan plan, RegisterPlan own) =>
        Along(message, [.. Of(message, plan, own).Select(Carried)]);

    /// <summary>They as they would be printed. One that would stop, or that cannot be printed now, goes as it goes when it is late.</summary>
    /// <param name="message">The message, of a stand-in order.</param>
    /// <param name="plan">The draft.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<ImmutableArray<CarriedPaper>> PrintedAsync(SentOrder message, RegisterPlan plan, CancellationToken cancel)
    {
        var papers = ImmutableArray.CreateBuilder<CarriedPaper>();
        foreach (var paper in Of(message, plan, plan))
        {
            var file = await PrintAsync(paper, cancel);
            papers.Add(Carried(paper) with { File = file, Goes = file is null ? PaperGoes.Late : PaperGoes.Attached });
        }

        return Along(message, papers.ToImmutable());
    }

    // Only a message says how papers go with it.
    private static ImmutableArray<CarriedPaper> Along(SentOrder message, ImmutableArray<CarriedPaper> papers) =>
        papers.IsEmpty ? [] : EmailKind.Carry(papers, message.To.Settings);

    private static async Task<byte[]?> PrintAsync(SentOrder paper, CancellationToken cancel)
    {
        var kind = (PaperKind)paper.To.Kind;
        try
        {
            return paper.WhyStops is null ? await kind.ShowAsync(kind.Render(paper, 1), cancel) : null;
        }
        catch (PrintingException)
        {
            return null;
        }
    }

    private static IEnumerable<SentOrder> Of(SentOrder message, RegisterPlan plan, RegisterPlan own)
    {
        var facts = new OrderFacts(message.Content);
        return from paper in message.To.Papers
            where !paper.Kind.FollowsAnother
            from part in OrderParts.Of(facts, paper)
            where message.Part.Contains(part)
            let projection = Projector.Project(message.Content, own, plan, paper.Key, part)
            select new SentOrder(message.Id, message.Number, message.PlacedAt, message.Content, projection, paper).Along(plan, own, part);
    }

    private CarriedPaper Carried(SentOrder paper) => new(PaperKind.TitleOf(paper), paper.FileNameAs("pdf"), links.LinkTo(paper.Id, 0));
}
