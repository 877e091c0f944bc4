namespace Sexton.Server.Hosting;

/// <summary>Every stage: the server is put together.</summary>
internal static class NamespaceDoc;
