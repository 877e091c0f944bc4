namespace Sexton.Destinations.Drop.Places;

/// <summary>Deliver: where files are dropped: a folder of the installation, or one that is reached by SFTP.</summary>
internal static class NamespaceDoc;
