namespace Sexton.Core.Asking;

/// <summary>Ask: what is asked of a cart, and what is wrong with its answers.</summary>
internal static class NamespaceDoc;
