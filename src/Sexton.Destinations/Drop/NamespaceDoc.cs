namespace Sexton.Destinations.Drop;

/// <summary>Deliver: files that are put where another program fetches them, an order or a day each.</summary>
internal static class NamespaceDoc;
