namespace Sexton.Destinations.Drop;

/// <summary>A kind of destination that can get many orders as one.</summary>
public abstract class GatheringKind : DeliveredKind
{
    /// <summary>Renders many orders as one.</summary>
    /// <param name="orders">The orders, to one destination; at least one.</param>
    public abstract byte[] RenderMany(IReadOnlyList<SentOrder> orders);

    /// <summary>What is about each order in what was handed over for many, by the id of the order; one of which nothing is there is left out.</summary>
    /// <param name="artefact">What was handed over, or read back.</param>
    /// <param name="orders">The orders.</param>
    public abstract IReadOnlyDictionary<Guid, byte[]> SectionsOf(byte[] artefact, IReadOnlyList<SentOrder> orders);
}
