namespace Sexton.Data.Invoices;

/// <summary>Deliver: the invoices and credit notes that were issued.</summary>
internal static class NamespaceDoc;
