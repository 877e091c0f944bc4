namespace Sexton.Core.Facts;

/// <summary>Ask: what can be known of a cart or an order, and where in it.</summary>
internal static class NamespaceDoc;
