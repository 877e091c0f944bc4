namespace Sexton.Data.Sealing;

/// <summary>Every stage: keys, and what lies sealed under them.</summary>
internal static class NamespaceDoc;
