namespace Sexton.Core.Routing;

/// <summary>Project: the kinds of destination and the destinations: what each takes, and what it can prove.</summary>
internal static class NamespaceDoc;
