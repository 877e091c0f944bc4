namespace Sexton.Server.Retention;

/// <summary>Confirm: what is kept for a time only goes.</summary>
internal static class NamespaceDoc;
