namespace Sexton.Core.Values;

/// <summary>Every stage: what answers, texts, days and amounts are, and how they are written.</summary>
internal static class NamespaceDoc;
