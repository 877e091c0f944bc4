namespace Sexton.Server.Shoppers;

/// <summary>Ask: who a shopper is, by a link that was sent.</summary>
internal static class NamespaceDoc;
