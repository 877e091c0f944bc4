namespace Sexton.Destinations.Invoices;

/// <summary>Deliver: what invoices and credit notes have in common.</summary>
internal static class NamespaceDoc;
