namespace Sexton.Destinations.Maker;

/// <summary>Deliver: a maker outside the house: a job for each line, under the maker's own item codes.</summary>
internal static class NamespaceDoc;
