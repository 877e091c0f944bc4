namespace Sexton.Server.Deliveries;

/// <summary>Deliver: the workers that send, and the kinds of destination that there are.</summary>
internal static class NamespaceDoc;
