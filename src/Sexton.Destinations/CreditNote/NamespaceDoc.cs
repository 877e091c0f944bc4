namespace Sexton.Destinations.CreditNote;

/// <summary>Deliver: the credit note.</summary>
internal static class NamespaceDoc;
