namespace Sexton.Destinations.Pages;

/// <summary>Deliver: the pages of the application, which are served.</summary>
internal static class NamespaceDoc;
