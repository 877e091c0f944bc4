namespace Sexton.Destinations.Invoice;

/// <summary>Deliver: the invoice.</summary>
internal static class NamespaceDoc;
