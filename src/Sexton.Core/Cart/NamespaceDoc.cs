namespace Sexton.Core.Cart;

/// <summary>Ask: what a shopper has chosen and answered so far.</summary>
internal static class NamespaceDoc;
