namespace Sexton.Core.Files;

/// <summary>Check: which kinds of file there are, and which one some bytes are.</summary>
internal static class NamespaceDoc;
