namespace Sexton.Destinations;

/// <summary>One hand-over of an artefact.</summary>
/// <param name="Key">The idempotency key of order, destination and payload.</param>
/// <param name="Reference">A short text of small letters, digits and dots for the same, by which a later report is told apart.</param>
/// <param name="Name">A short name for people that is given once at the destination: "1042", and "1042-2" for the second payload.</param>
/// <param name="Begins">Called just before the first byte that the receiver may act on.</param>
public sealed record Handover(string Key, string Reference, string Name, Func<Task> Begins)
{
    /// <summary>SHA-256 of what may be there already under the name, from a try of which nobody knows how it ended; null for nothing.</summary>
    public byte[]? MayBeThere { get; init; }
}
