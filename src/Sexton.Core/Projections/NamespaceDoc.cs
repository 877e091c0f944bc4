namespace Sexton.Core.Projections;

/// <summary>Project: what a destination gets of an order.</summary>
internal static class NamespaceDoc;
