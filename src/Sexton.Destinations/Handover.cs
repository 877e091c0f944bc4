namespace Sexton.Destinations;

/// <summary>One hand-over of an artefact.</summary>
/// <param name="Key">The idempotency key of order, destination and payload.</param>
/// <param name="Reference">A short text of small letters, digits and dots for the same, by which a later report is told apart.</param>
/// <param name="Begins">Called just before the first byte that the receiver may act on.</param>
public sealed record Handover(string Key, string Reference, Func<Task> Begins);
