using Sexton.Core.Trail;

namespace Sexton.Destinations;

/// <summary>A message or system: it renders an order, sends it, and reads back what the other side has. One folder each.</summary>
public interface IDeliveredDestination
{
    /// <summary>The key; see <see cref="Core.Routing.DestinationIndex"/>.</summary>
    string Key { get; }

    /// <summary>
    /// True when the receiver tells doubles apart by the idempotency key. Where it does not, the beginning of the hand-over is
    /// put on record before, and a lost acknowledgement is repeated once at most.
    /// </summary>
    bool TellsDoublesApart { get; }

    /// <summary>
    /// True where a newer payload replaces one that was not sent, since each says all there is (a state); false where each is sent in its turn (events).
    /// </summary>
    bool ReplacesUnsent => true;

    /// <summary>Renders what is to be handed over.</summary>
    /// <param name="order">The order and its projection.</param>
    /// <param name="sequence">The number of the payload.</param>
    byte[] Render(SentOrder order, int sequence);

    /// <summary>Hands an artefact over.</summary>
    /// <param name="artefact">What <see cref="Render"/> gave.</param>
    /// <param name="key">The idempotency key of order, destination and payload.</param>
    /// <param name="handingOver">Called just before the first byte that the receiver may act on.</param>
    /// <param name="cancel">Cancels.</param>
    Task<SendResult> SendAsync(byte[] artefact, string key, Func<Task> handingOver, CancellationToken cancel);

    /// <summary>Asks once more for what the other side has of something that it took.</summary>
    /// <param name="receipt">What it gave in return.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>What it has; null where it does not say. What was handed over is all there is where nothing can be asked for.</returns>
    Task<byte[]?> FetchAsync(string receipt, CancellationToken cancel) => Task.FromResult<byte[]?>(null);

    /// <summary>Reads the kept artefact back and compares it, slot by slot, with the projection as sent.</summary>
    IEnumerable<SlotFinding> ReadBack(byte[] artefact, SentOrder order);
}
