namespace Sexton.Destinations.Papers.Printing;

/// <summary>Deliver: HTML to PDF, by one Chromium that is kept.</summary>
internal static class NamespaceDoc;
