namespace Sexton.Destinations.BackOffice;

/// <summary>Deliver: the back office, by HTTP and JSON.</summary>
internal static class NamespaceDoc;
