using System.Collections.Frozen;
using System.Collections.Immutable;

namespace Sexton.Core.Catalogue;

/// <summary>What the shop sells and to whom: its products found by their code, its shopper groups, its currency.</summary>
public sealed class ProductIndex
{
    private const int MostAtOnce = 400;

    private readonly FrozenDictionary<string, Product> _byCode;
    private readonly FrozenDictionary<string, Goods> _items;

    private FrozenDictionary<string, Goods>? _itemsInAnyCase;

    /// <summary>Makes it.</summary>
    /// <param name="products">All products on sale, in their order; their codes must differ.</param>
    /// <param name="groups">The shopper groups; the first is that of everybody who is not known.</param>
    /// <param name="currency">The one currency of the installation (ISO 4217).</param>
    /// <param name="homeCountry">The country that is assumed until another is known (ISO 3166-1 alpha-2).</param>
    public ProductIndex(IEnumerable<Product> products, IEnumerable<ShopperGroup> groups, string currency, string homeCountry)
    {
        (All, Groups, Currency, HomeCountry) = ([.. products], [.. groups], currency, homeCountry);
        _byCode = All.ToFrozenDictionary(static p => p.Code, StringComparer.Ordinal);
        _items = All.SelectMany(static p => p.Variants.IsEmpty ? [new Goods(p, null)] : p.Variants.Select(v => new Goods(p, v)))
            .DistinctBy(static g => g.Code, StringComparer.Ordinal)
            .ToFrozenDictionary(static g => g.Code, StringComparer.Ordinal);
    }

    /// <summary>The currency of all prices.</summary>
    public string Currency { get; }

    /// <summary>The country that is assumed until another is known.</summary>
    public string HomeCountry { get; }

    /// <summary>The shopper groups.</summary>
    public ImmutableArray<ShopperGroup> Groups { get; }

    /// <summary>How prices and tax go together.</summary>
    public TaxRules Tax { get; init; } = TaxRules.None;

    /// <summary>The coupons that count now.</summary>
    public ImmutableArray<Coupon> Coupons { get; init; } = [];

    /// <summary>The coupon with a code, or null.</summary>
    public Coupon? FindCoupon(string code)
    {
        foreach (var coupon in Coupons)
        {
            if (string.Equals(coupon.Code, code, StringComparison.OrdinalIgnoreCase))
            {
                return coupon;
            }
        }

        return null;
    }

    /// <summary>All products, in the order in which the shop shows them.</summary>
    public ImmutableArray<Product> All { get; }

    /// <summary>Whether there are so many that they are shown a part at a time.</summary>
    public bool IsLarge => All.Length > MostAtOnce;

    /// <summary>By which names they can be referred to.</summary>
    public CatalogueNames Names => field ??= new CatalogueNames(this);

    /// <summary>The group of a shopper: the one with the key, else that of everybody who is not known.</summary>
    public string GroupOf(string? key)
    {
        foreach (var group in Groups)
        {
            if (group.Key == key)
            {
                return group.Key;
            }
        }

        return Groups.IsEmpty ? "" : Groups[0].Key;
    }

    /// <summary>What is sold under an item code: a product without variants, or a variant; or null.</summary>
    public Goods? FindItem(string code) => _items.TryGetValue(code, out var goods) ? goods : null;

    /// <summary>The same, where the case of letters is not minded; of two whose codes differ only in it, either.</summary>
    public Goods? FindItemInAnyCase(string code) =>
        (
            _itemsInAnyCase ??= _items
                .Values.DistinctBy(static g => g.Code, StringComparer.OrdinalIgnoreCase)
                .ToFrozenDictionary(static g => g.Code, StringComparer.OrdinalIgnoreCase)
        ).TryGetValue(code, out var goods)
            ? goods
            : null;

    /// <summary>The product with a code, or null.</summary>
    public Product? Find(string code) => _byCode.GetValueOrDefault(code);

    /// <summary>What a line is of, or null when that is not sold: no such product, no such variant, or none named where there are some.</summary>
    public Goods? Find(string code, string? variant)
    {
        if (Find(code) is not { } product)
        {
            return null;
        }

        if (product.Variants.IsEmpty)
        {
            return variant is null ? new Goods(product, null) : null;
        }

        foreach (var known in product.Variants)
        {
            if (known.Code == variant)
            {
                return new Goods(product, known);
            }
        }

        return null;
    }
}
