namespace Sexton.Server.Versions;

/// <summary>Compile: the versions of the register, read and written.</summary>
internal static class NamespaceDoc;
