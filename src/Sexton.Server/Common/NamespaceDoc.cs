namespace Sexton.Server.Common;

/// <summary>Every stage: what the features share: options, problems, clocks, links, limits.</summary>
internal static class NamespaceDoc;
