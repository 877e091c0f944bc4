using Sexton.Core.Facts;
using Sexton.Core.Orders;
using Sexton.Core.Plan;
using Sexton.Core.Projections;

namespace Sexton.Core.Trail;

/// <summary>What was expected of an order at one destination, and what was found there.</summary>
/// <param name="Destination">The key of the destination.</param>
/// <param name="Projection">What is expected there.</param>
/// <param name="Findings">What was found slot by slot, as far as it is kept so; several of one slot where an artefact has several parts.</param>
public record DestinationFindings(string Destination, Projection Projection, IReadOnlyList<SlotFinding> Findings)
{
    /// <summary>What was found wherever nothing else stands among the findings; none where nothing was read back.</summary>
    public Finding Agreed { get; init; }

    private readonly IReadOnlySet<SlotId> _adapted = Projection.Adapted;

    /// <summary>The slots expected there.</summary>
    public IReadOnlySet<SlotId> Expected { get; } = Projection.Slots;

    /// <summary>What is expected of one answer.</summary>
    /// <param name="answer">The answer.</param>
    /// <param name="current">The current version of the register, which says what was left out.</param>
    public Expectation ExpectationOf(OrderAnswer answer, RegisterPlan current) =>
        answer.Value is null ? Expectation.LeftEmpty
        : _adapted.Contains(answer.Slot) ? Expectation.Adapted
        : Expected.Contains(answer.Slot) ? Expectation.Verbatim
        : current.Find(answer.Field)?.Field.LeftOut.Contains(Destination) == true ? Expectation.LeftOut
        : Expectation.NotRouted;

    /// <summary>What was found of one answer: the worst that any part says.</summary>
    /// <param name="slot">Where the answer stands.</param>
    public Finding FindingOf(SlotId slot)
    {
        var worst = SlotFinding.Worst(Findings.Where(f => f.Slot == slot.ToString()).Select(static f => f.Finding));
        return worst == Finding.None && Expected.Contains(slot) ? Agreed : worst;
    }
}
