namespace Sexton.Core.Catalogue;

/// <summary>The keys and names by which a register can refer to what the shop sells and to whom. Collected once for each catalogue.</summary>
/// <param name="products">The catalogue.</param>
public sealed class CatalogueNames(ProductIndex products)
{
    /// <summary>The codes of products.</summary>
    public IReadOnlySet<string> Products { get; } = Set(products.All.Select(static p => p.Code));

    /// <summary>The codes of variants.</summary>
    public IReadOnlySet<string> Variants { get; } = Set(products.All.SelectMany(static p => p.Variants).Select(static v => v.Code));

    /// <summary>The names of categories.</summary>
    public IReadOnlySet<string> Categories { get; } = Set(products.All.SelectMany(static p => p.Categories));

    /// <summary>The tags.</summary>
    public IReadOnlySet<string> Tags { get; } = Set(products.All.SelectMany(static p => p.Tags));

    /// <summary>The names of attributes, of products or of their variants.</summary>
    public IReadOnlySet<string> Attributes { get; } =
        Set(products.All.SelectMany(static p => p.Variants.SelectMany(static v => v.Attributes.Keys).Concat(p.Attributes.Keys)));

    /// <summary>The keys of shopper groups.</summary>
    public IReadOnlySet<string> Groups { get; } = Set(products.Groups.Select(static g => g.Key));

    private static HashSet<string> Set(IEnumerable<string> names) => names.ToHashSet(StringComparer.Ordinal);
}
