namespace Sexton.Destinations.Papers.Reading;

/// <summary>Confirm: what stands at which place of a PDF, by its structure, as whoever reads it without our writer would find it.</summary>
internal static class NamespaceDoc;
