namespace Sexton.Core.Catalogue;

/// <summary>Define: the goods that a shop sells, as far as fields and rules are about them.</summary>
internal static class NamespaceDoc;
