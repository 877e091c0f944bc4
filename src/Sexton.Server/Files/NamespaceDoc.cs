namespace Sexton.Server.Files;

/// <summary>Ask: files that are handed in, and fetched again.</summary>
internal static class NamespaceDoc;
