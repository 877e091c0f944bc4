namespace Sexton.Core.Codes;

/// <summary>Place: the item codes under which lines leave.</summary>
internal static class NamespaceDoc;
