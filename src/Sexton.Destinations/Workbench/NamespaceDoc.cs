namespace Sexton.Destinations.Workbench;

/// <summary>Project: a maker in the house: nothing is sent, its lines stand on the order page.</summary>
internal static class NamespaceDoc;
