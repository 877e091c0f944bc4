namespace Sexton.Data.Products;

/// <summary>Define: the products of the shop, in their table.</summary>
internal static class NamespaceDoc;
