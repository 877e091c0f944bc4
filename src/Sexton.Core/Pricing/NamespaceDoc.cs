namespace Sexton.Core.Pricing;

/// <summary>Price: what answers cost, and the taxes on it, in exact fractions rounded once.</summary>
internal static class NamespaceDoc;
