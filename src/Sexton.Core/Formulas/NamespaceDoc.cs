namespace Sexton.Core.Formulas;

/// <summary>Ask: answers that are worked out of other facts.</summary>
internal static class NamespaceDoc;
