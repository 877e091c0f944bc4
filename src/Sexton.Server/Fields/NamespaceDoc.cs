namespace Sexton.Server.Fields;

/// <summary>Define: the draft and its changes.</summary>
internal static class NamespaceDoc;
