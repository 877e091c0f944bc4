namespace Sexton.Server.Papers;

/// <summary>Deliver: what is printed of an order, opened by whoever needs it.</summary>
internal static class NamespaceDoc;
