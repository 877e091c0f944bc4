namespace Sexton.Core.Components;

/// <summary>Price: what else of the stock an answer uses.</summary>
internal static class NamespaceDoc;
