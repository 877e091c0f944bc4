using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Trail;

namespace Sexton.Destinations;

/// <summary>
/// A kind of message, paper or system: it renders an order, sends it, and reads back what the other side has. One folder each, with all that is to be said of it;
/// the host only collects the kinds.
/// </summary>
public abstract class DeliveredKind : DestinationKind
{
    /// <inheritdoc/>
    public sealed override bool IsDelivered => true;

    /// <summary>
    /// True when the receiver tells doubles apart by the idempotency key. Where it does not, the beginning of the hand-over is
    /// put on record before, and a lost acknowledgement is repeated once at most.
    /// </summary>
    public abstract bool TellsDoublesApart { get; }

    /// <summary>Whether what it gives in return is a number by which people ask for the order there.</summary>
    public virtual bool GivesNumbers => false;

    /// <summary>Whether it says of what was asked that it was left empty.</summary>
    public virtual bool TellsLeftEmpty => false;

    /// <summary>Renders what is to be handed over.</summary>
    /// <param name="order">The order and its projection.</param>
    /// <param name="sequence">The number of the payload.</param>
    public abstract byte[] Render(SentOrder order, int sequence);

    /// <summary>What would be kept as evidence of what <see cref="Render"/> gave, where that is something else; nothing is handed over.</summary>
    /// <param name="rendered">What was rendered.</param>
    /// <param name="cancel">Cancels.</param>
    public virtual Task<byte[]> ShowAsync(byte[] rendered, CancellationToken cancel) => Task.FromResult(rendered);

    /// <summary>Hands an artefact over.</summary>
    /// <param name="to">The destination.</param>
    /// <param name="artefact">What <see cref="Render"/> gave.</param>
    /// <param name="handover">What tells this hand-over apart, and who is told when it begins.</param>
    /// <param name="cancel">Cancels.</param>
    public abstract Task<SendResult> SendAsync(BoundDestination to, byte[] artefact, Handover handover, CancellationToken cancel);

    /// <summary>What is sent, as it goes to the trial address of its destination; null where that has none.</summary>
    /// <param name="order">What is sent.</param>
    public abstract SentOrder? ForTrial(SentOrder order);

    /// <summary>Asks once more for what the other side has of something that it took.</summary>
    /// <param name="to">The destination.</param>
    /// <param name="receipt">What it gave in return.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>What it has; null where it does not say. What was handed over is all there is where nothing can be asked for.</returns>
    public virtual Task<byte[]?> FetchAsync(BoundDestination to, string receipt, CancellationToken cancel) =>
        Task.FromResult<byte[]?>(null);

    /// <summary>Reads the kept artefact back and compares it, slot by slot, with the projection as sent.</summary>
    /// <param name="artefact">The artefact.</param>
    /// <param name="order">The order as it was sent.</param>
    public abstract IEnumerable<SlotFinding> ReadBack(byte[] artefact, SentOrder order);

    /// <summary>The parts of an artefact, as a person looks at them.</summary>
    /// <param name="artefact">The artefact.</param>
    /// <param name="sent">What was sent of the order.</param>
    /// <param name="slot">The slot that is looked for, as text.</param>
    public abstract IReadOnlyList<ArtefactPart> PartsOf(byte[] artefact, Projection sent, string slot);
}
