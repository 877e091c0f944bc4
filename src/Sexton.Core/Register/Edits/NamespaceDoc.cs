namespace Sexton.Core.Register.Edits;

/// <summary>Define: single changes to the plain data, each with its refusals.</summary>
internal static class NamespaceDoc;
