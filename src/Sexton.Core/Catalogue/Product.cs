using System.Collections.Immutable;
using Sexton.Core.Register;

namespace Sexton.Core.Catalogue;

/// <summary>A product of the shop, as the rules know it.</summary>
/// <param name="Code">The external code; the SKU in the trade's word.</param>
/// <param name="Name">Its name.</param>
/// <param name="Category">The name of its category.</param>
/// <param name="PriceMinor">The price of one, in minor units; at least 0.</param>
public sealed record Product(string Code, LanguageMap Name, string Category, long PriceMinor);

/// <summary>The products of the shop, found by their code.</summary>
/// <param name="products">All products on sale; their codes must differ.</param>
/// <param name="currency">The one currency of the installation (ISO 4217).</param>
public sealed class ProductIndex(IEnumerable<Product> products, string currency)
{
    private readonly ImmutableDictionary<string, Product> _byCode = products.ToImmutableDictionary(p => p.Code, StringComparer.Ordinal);

    /// <summary>The currency of all prices.</summary>
    public string Currency { get; } = currency;

    /// <summary>The product with a code, or null.</summary>
    public Product? Find(string code) => _byCode.GetValueOrDefault(code);
}
