namespace Sexton.Core.Invoicing;

/// <summary>Project: what an invoice or a credit note says, by the rules of EN 16931.</summary>
internal static class NamespaceDoc;
