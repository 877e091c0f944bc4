namespace Sexton.Server.Shop;

/// <summary>Ask: the pages of the shop: what is asked, wrong, and to be paid.</summary>
internal static class NamespaceDoc;
