namespace Sexton.Destinations.Events;

/// <summary>Deliver: another program that is told what happens to an order: signed events, each in its turn.</summary>
internal static class NamespaceDoc;
