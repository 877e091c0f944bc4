namespace Sexton.Core.Trail;

/// <summary>Confirm: what became of each answer at each destination.</summary>
internal static class NamespaceDoc;
