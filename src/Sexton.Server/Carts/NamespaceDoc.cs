namespace Sexton.Server.Carts;

/// <summary>Ask: the carts, kept.</summary>
internal static class NamespaceDoc;
