namespace Sexton.Core.Catalogue.Brought;

/// <summary>Define: files of products, what they would change, and what keeps them from being taken.</summary>
internal static class NamespaceDoc;
