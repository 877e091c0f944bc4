namespace Sexton.Destinations.Events;

/// <summary>What every event says of the shop.</summary>
/// <param name="Source">The address of the shop, by which who gets events of several tells them apart.</param>
/// <param name="LinkToFile">The link by which a program fetches a file of an order, by the SHA-256 of the file.</param>
public sealed record EventSettings(Uri Source, Func<Guid, string, string> LinkToFile);
