namespace Sexton.Server.Publishing;

/// <summary>Compile: a draft becomes a version, or one switch of it does.</summary>
internal static class NamespaceDoc;
