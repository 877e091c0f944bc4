namespace Sexton.Server.Products;

/// <summary>What staff set of the products of the shop.</summary>
internal static class NamespaceDoc;
