namespace Sexton.Server.Connections;

/// <summary>Deliver: the ways out to other systems, with their secrets and their limits.</summary>
internal static class NamespaceDoc;
