using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Catalogue;
using Sexton.Core.Register;
using Sexton.Core.Values;

namespace Sexton.Server.Fields;

/// <summary>Which products somebody who looks at the draft has at hand.</summary>
/// <param name="Find">A word in the names or codes of some that are looked for; "" for none.</param>
/// <param name="Codes">The codes of some that are at hand already.</param>
internal sealed record ProductsLookedFor(string Find, IReadOnlyList<string> Codes)
{
    /// <summary>None.</summary>
    public static readonly ProductsLookedFor None = new("", []);
}

/// <summary>
/// The products that are shown with a draft: all of them, or of a large catalogue those that the draft names, those that are looked for, and the first of each
/// category and of each tag that the draft names.
/// </summary>
internal sealed class ShownProducts
{
    private const int MostFound = 20;
    private const int OfEachFamily = 3;

    private readonly ImmutableArray<Product> _all;
    private readonly ProductFamilies _categories;
    private readonly ProductFamilies _tags;

    /// <summary>Chooses them.</summary>
    /// <param name="products">The catalogue.</param>
    /// <param name="draft">The draft.</param>
    /// <param name="lookedFor">What is looked for.</param>
    public ShownProducts(ProductIndex products, RegisterContent draft, ProductsLookedFor lookedFor)
    {
        _all = products.All;
        var named = draft.Fields.Select(static f => f.AskedOf).Concat(draft.Sections.Select(static s => s.AskedOf));
        var tags = named.SelectMany(static scope => scope.Tags).ToHashSet(StringComparer.Ordinal);
        _categories = new ProductFamilies(_all, static p => p.Categories);
        _tags = new ProductFamilies(_all, p => p.Tags.Where(tags.Contains));
        if (!products.IsLarge)
        {
            Shown = _all;
            return;
        }

        // One and the same is one: a product need not be compared with others by all that it says.
        var chosen = new HashSet<Product>(ReferenceEqualityComparer.Instance);
        chosen.UnionWith(Named(products, JsonSerializer.SerializeToElement(draft, DocumentJson.Options)));
        chosen.UnionWith(lookedFor.Codes.Select(products.Find).OfType<Product>());
        if (lookedFor.Find.Length > 0)
        {
            chosen.UnionWith(_all.Where(p => IsFound(p, lookedFor.Find)).Take(MostFound));
        }

        chosen.UnionWith(_categories.First(OfEachFamily).Concat(_tags.First(OfEachFamily)).Select(at => _all[at]));
        Shown = [.. _all.Where(chosen.Contains)];
    }

    /// <summary>Those that are shown, in the order of the shop.</summary>
    public ImmutableArray<Product> Shown { get; }

    /// <summary>The categories, in the order in which they first come, and how many products stand in each.</summary>
    public IReadOnlyList<FamilyCount> Categories => _categories.All;

    /// <summary>The tags that the draft names and products have, and how many each.</summary>
    public IReadOnlyList<FamilyCount> Tags => _tags.All;

    /// <summary>Which products ask something.</summary>
    /// <param name="of">Of which products it is asked.</param>
    /// <param name="section">Of which its section is; null for none.</param>
    public AskedProducts Asked(ProductScope of, ProductScope? section = null)
    {
        if (of.All && section?.All != false)
        {
            return new AskedProducts([.. Shown.Select(static p => p.Code)], _all.Length, _categories.Names, _tags.Names);
        }

        bool Asks(Product product) => of.Includes(product) && section?.Includes(product) != false;
        var places = Enumerable.Range(0, _all.Length).Where(at => Asks(_all[at])).ToList();
        return new AskedProducts(
            [.. Shown.Where(Asks).Select(static p => p.Code)],
            places.Count,
            _categories.WholeIn(places),
            _tags.WholeIn(places)
        );
    }

    private static bool IsFound(Product product, string word) =>
        product.Code.Contains(word, StringComparison.OrdinalIgnoreCase)
        || product.Name.ToString().Contains(word, StringComparison.OrdinalIgnoreCase);

    // Whatever the draft says that is the code of a product, or of its variant.
    private static IEnumerable<Product> Named(ProductIndex products, JsonElement said) =>
        said.ValueKind switch
        {
            JsonValueKind.Object => said.EnumerateObject().SelectMany(m => Sold(products, m.Name).Concat(Named(products, m.Value))),
            JsonValueKind.Array => said.EnumerateArray().SelectMany(e => Named(products, e)),
            JsonValueKind.String => Sold(products, said.GetString()!),
            _ => [],
        };

    private static IEnumerable<Product> Sold(ProductIndex products, string code) =>
        (products.Find(code) ?? products.FindItem(code)?.Product) is { } product ? [product] : [];
}

/// <summary>Which products ask something.</summary>
/// <param name="Codes">Those of them that are shown.</param>
/// <param name="Count">How many there are in all.</param>
/// <param name="Categories">The categories of which every product does.</param>
/// <param name="Tags">The tags that the draft names, of which every product does.</param>
internal sealed record AskedProducts(IReadOnlyList<string> Codes, int Count, IReadOnlyList<string> Categories, IReadOnlyList<string> Tags);
