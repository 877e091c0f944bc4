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
/// category.
/// </summary>
internal sealed class ShownProducts
{
    /// <summary>How many a catalogue has at most of which all are shown.</summary>
    public const int Most = 400;

    private const int MostFound = 20;
    private const int OfEachCategory = 3;

    private readonly ImmutableArray<Product> _all;

    /// <summary>Chooses them.</summary>
    /// <param name="products">The catalogue.</param>
    /// <param name="draft">The draft.</param>
    /// <param name="lookedFor">What is looked for.</param>
    public ShownProducts(ProductIndex products, RegisterContent draft, ProductsLookedFor lookedFor)
    {
        _all = products.All;
        if (_all.Length <= Most)
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

        var seen = new Dictionary<string, int>(StringComparer.Ordinal);
        foreach (var product in _all)
        {
            foreach (var category in product.Categories)
            {
                var before = seen.GetValueOrDefault(category);
                seen[category] = before + 1;
                if (before < OfEachCategory)
                {
                    chosen.Add(product);
                }
            }
        }

        Shown = [.. _all.Where(chosen.Contains)];
    }

    /// <summary>Those that are shown, in the order of the shop.</summary>
    public ImmutableArray<Product> Shown { get; }

    /// <summary>The categories, in the order in which they first come, and how many products stand in each.</summary>
    public IReadOnlyList<CategoryCount> Categories() =>
        [
            .. _all.SelectMany(static p => p.Categories)
                .GroupBy(static c => c, StringComparer.Ordinal)
                .Select(static g => new CategoryCount(g.Key, g.Count())),
        ];

    /// <summary>Which products ask something.</summary>
    /// <param name="asks">Whether a product does.</param>
    public AskedProducts Asked(Func<Product, bool> asks)
    {
        var (count, partly) = (0, new HashSet<string>(StringComparer.Ordinal));
        var wholly = new HashSet<string>(StringComparer.Ordinal);
        foreach (var product in _all)
        {
            var isAsked = asks(product);
            count += isAsked ? 1 : 0;
            foreach (var category in product.Categories)
            {
                (isAsked ? wholly : partly).Add(category);
            }
        }

        wholly.ExceptWith(partly);
        return new AskedProducts([.. Shown.Where(asks).Select(static p => p.Code)], count, [.. wholly]);
    }

    private static bool IsFound(Product product, string word) =>
        product.Code.Contains(word, StringComparison.OrdinalIgnoreCase)
        || product.Name.Texts.Values.Any(name => name.Contains(word, StringComparison.OrdinalIgnoreCase));

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
internal sealed record AskedProducts(IReadOnlyList<string> Codes, int Count, IReadOnlyList<string> Categories);

/// <summary>A category.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Count">How many products stand in it.</param>
internal sealed record CategoryCount(string Name, int Count);
