using System.Collections.Immutable;
using Sexton.Core.Catalogue;

namespace Sexton.Server.Fields;

/// <summary>The products by what several of them have in common: their categories, or their tags.</summary>
internal sealed class ProductFamilies
{
    // Of each product, which of the families it is of.
    private readonly int[][] _familiesOf;

    /// <summary>Sorts them.</summary>
    /// <param name="products">The products.</param>
    /// <param name="namesOf">The names of those that a product is of.</param>
    public ProductFamilies(ImmutableArray<Product> products, Func<Product, IEnumerable<string>> namesOf)
    {
        var names = new Dictionary<string, int>(StringComparer.Ordinal);
        _familiesOf =
        [
            .. products.Select(p => namesOf(p).Select(n => names.TryAdd(n, names.Count) ? names.Count - 1 : names[n]).ToArray()),
        ];
        var counts = CountsOf(Enumerable.Range(0, products.Length), names.Count);
        All = [.. names.Select(n => new FamilyCount(n.Key, counts[n.Value]))];
    }

    /// <summary>The families, in the order in which they first come, and how many products are of each.</summary>
    public IReadOnlyList<FamilyCount> All { get; }

    /// <summary>Their names.</summary>
    public IReadOnlyList<string> Names => [.. All.Select(static family => family.Name)];

    /// <summary>The first products of each family, by their places.</summary>
    /// <param name="most">How many of each.</param>
    public IEnumerable<int> First(int most)
    {
        var seen = new int[All.Count];
        for (var at = 0; at < _familiesOf.Length; at++)
        {
            var isFirst = false;
            foreach (var family in _familiesOf[at])
            {
                isFirst |= seen[family]++ < most;
            }

            if (isFirst)
            {
                yield return at;
            }
        }
    }

    /// <summary>The families that are whole among some products.</summary>
    /// <param name="places">The places of those products.</param>
    public IReadOnlyList<string> WholeIn(IEnumerable<int> places)
    {
        var counts = CountsOf(places, All.Count);
        return [.. All.Where((family, i) => counts[i] == family.Count).Select(static family => family.Name)];
    }

    private int[] CountsOf(IEnumerable<int> places, int families)
    {
        var counts = new int[families];
        foreach (var at in places)
        {
            foreach (var family in _familiesOf[at])
            {
                counts[family]++;
            }
        }

        return counts;
    }
}

/// <summary>A category, or a tag.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Count">How many products are of it.</param>
internal sealed record FamilyCount(string Name, int Count);
