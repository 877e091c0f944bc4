namespace Sexton.Core.Checks;

/// <summary>Compile: problems of a draft that are found before it is published.</summary>
internal static class NamespaceDoc;
