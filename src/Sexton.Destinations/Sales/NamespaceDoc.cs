namespace Sexton.Destinations.Sales;

/// <summary>Deliver: a sale as programs get it, in JSON: lines as they leave, amounts, and every answer by the key of its field.</summary>
internal static class NamespaceDoc;
