namespace Sexton.Data.Queue;

/// <summary>Deliver: lanes, payloads and tries.</summary>
internal static class NamespaceDoc;
