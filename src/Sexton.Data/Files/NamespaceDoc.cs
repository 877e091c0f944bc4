namespace Sexton.Data.Files;

/// <summary>Ask: files in pieces, as they come and as they are kept.</summary>
internal static class NamespaceDoc;
