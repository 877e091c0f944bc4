namespace Sexton.Server.Commands;

/// <summary>Every stage: what an operator does by hand.</summary>
internal static class NamespaceDoc;
