namespace Sexton.Server.Makers;

/// <summary>Project: what makers and other systems call the items of the shop.</summary>
internal static class NamespaceDoc;
