namespace Sexton.Data.Placing;

/// <summary>Place: orders and what is counted, written so that death at any instant loses nothing.</summary>
internal static class NamespaceDoc;
