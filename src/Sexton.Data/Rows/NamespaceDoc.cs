namespace Sexton.Data.Rows;

/// <summary>Every stage: the rows of the database.</summary>
internal static class NamespaceDoc;
