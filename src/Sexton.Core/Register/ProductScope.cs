using System.Collections.Immutable;
using System.Text.Json.Serialization;
using Sexton.Core.Catalogue;

namespace Sexton.Core.Register;

/// <summary>
/// The quick way of saying when a field is asked: of every product, or of those listed by code, category or tag; and of every shopper, or
/// of those of the groups listed. A field asked once per order is asked when any line of the cart is of such a product.
/// </summary>
public sealed record ProductScope
{
    /// <summary>Asked of every product.</summary>
    public static readonly ProductScope Every = new() { All = true };

    /// <summary>True when the field is asked of every product; the lists of products, categories and tags are then empty.</summary>
    public bool All { get; init; }

    /// <summary>The codes of the products, when not all; sorted, without doubles.</summary>
    public ImmutableArray<string> Products { get; init; } = [];

    /// <summary>The names of categories of which every product asks it.</summary>
    public ImmutableArray<string> Categories { get; init; } = [];

    /// <summary>The tags of which every product asks it.</summary>
    public ImmutableArray<string> Tags { get; init; } = [];

    /// <summary>The keys of the shopper groups that are asked; empty for every shopper.</summary>
    public ImmutableArray<string> Groups { get; init; } = [];

    /// <summary>Asked of these products only.</summary>
    public static ProductScope Only(params IEnumerable<string> codes) => new() { Products = Sorted(codes) };

    /// <summary>True when not all and nothing is listed, so that no product asks it.</summary>
    [JsonIgnore]
    public bool IsNothing => !All && Products.IsEmpty && Categories.IsEmpty && Tags.IsEmpty;

    /// <summary>Whether the field is asked of a product.</summary>
    public bool Includes(Product product) =>
        All
        || Products.Contains(product.Code, StringComparer.Ordinal)
        || Names(Categories, product.Categories)
        || Names(Tags, product.Tags);

    // Without a delegate, since every line of a cart comes by here.
    private static bool Names(ImmutableArray<string> listed, ImmutableArray<string> own)
    {
        foreach (var name in own)
        {
            if (listed.Contains(name, StringComparer.Ordinal))
            {
                return true;
            }
        }

        return false;
    }

    /// <summary>Whether shoppers of a group are asked.</summary>
    public bool IncludesGroup(string group) => Groups.IsEmpty || Groups.Contains(group, StringComparer.Ordinal);

    /// <summary>The same with every list sorted, without doubles, and empty where it says nothing.</summary>
    public ProductScope Tidy() =>
        All
            ? new() { All = true, Groups = Sorted(Groups) }
            : new()
            {
                Products = Sorted(Products),
                Categories = Sorted(Categories),
                Tags = Sorted(Tags),
                Groups = Sorted(Groups),
            };

    /// <inheritdoc/>
    public bool Equals(ProductScope? other) =>
        other is not null
        && All == other.All
        && Products.SequenceEqual(other.Products, StringComparer.Ordinal)
        && Categories.SequenceEqual(other.Categories, StringComparer.Ordinal)
        && Tags.SequenceEqual(other.Tags, StringComparer.Ordinal)
        && Groups.SequenceEqual(other.Groups, StringComparer.Ordinal);

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(All, Products.Length, Categories.Length, Tags.Length, Groups.Length);

    private static ImmutableArray<string> Sorted(IEnumerable<string> texts) =>
        [.. texts.Distinct(StringComparer.Ordinal).Order(StringComparer.Ordinal)];
}
