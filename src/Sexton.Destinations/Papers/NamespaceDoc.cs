namespace Sexton.Destinations.Papers;

/// <summary>Deliver: what is printed. HTML with marked answers becomes a PDF, and every answer is read back from its place in there.</summary>
internal static class NamespaceDoc;
