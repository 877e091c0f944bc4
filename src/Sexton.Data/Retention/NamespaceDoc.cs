namespace Sexton.Data.Retention;

/// <summary>Confirm: what is kept for how long, and what erasing leaves.</summary>
internal static class NamespaceDoc;
