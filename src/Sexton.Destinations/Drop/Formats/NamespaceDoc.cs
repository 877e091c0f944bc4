namespace Sexton.Destinations.Drop.Formats;

/// <summary>Deliver: the forms of a file that is dropped: JSON, comma-separated values (RFC 4180), UBL.</summary>
internal static class NamespaceDoc;
