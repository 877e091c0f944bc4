namespace Sexton.Server.Attempts;

/// <summary>Attempt: paying, and what becomes of it.</summary>
internal static class NamespaceDoc;
