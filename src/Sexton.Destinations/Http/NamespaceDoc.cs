namespace Sexton.Destinations.Http;

/// <summary>Deliver: systems that are reached by HTTP and JSON: documents are posted under an idempotency key and read back by number.</summary>
internal static class NamespaceDoc;
