namespace Sexton.Server.Products;

/// <summary>Define: what staff set of the products of the shop.</summary>
internal static class NamespaceDoc;
