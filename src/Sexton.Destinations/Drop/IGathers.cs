namespace Sexton.Destinations.Drop;

/// <summary>A kind of destination that can get many orders as one.</summary>
public interface IGathers
{
    /// <summary>Renders many orders as one.</summary>
    /// <param name="orders">The orders, to one destination; at least one.</param>
    byte[] RenderMany(IReadOnlyList<SentOrder> orders);

    /// <summary>What is about one order in what was handed over for many; null where nothing is.</summary>
    /// <param name="artefact">What was handed over, or read back.</param>
    /// <param name="order">The order.</param>
    byte[]? SectionOf(byte[] artefact, SentOrder order);
}
