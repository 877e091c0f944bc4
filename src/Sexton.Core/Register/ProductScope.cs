using System.Collections.Immutable;

namespace Sexton.Core.Register;

/// <summary>Of which products a field is asked: all, or those listed by their external code.</summary>
public sealed record ProductScope
{
    /// <summary>Asked of every product.</summary>
    public static readonly ProductScope Every = new() { All = true };

    /// <summary>True when the field is asked of every product; <see cref="Products"/> is then empty.</summary>
    public bool All { get; init; }

    /// <summary>The codes of the products, when not all; sorted, without doubles.</summary>
    public ImmutableArray<string> Products { get; init; } = [];

    /// <summary>Asked of these products only.</summary>
    public static ProductScope Only(params IEnumerable<string> codes) =>
        new() { Products = [.. codes.Distinct(StringComparer.Ordinal).Order(StringComparer.Ordinal)] };

    /// <summary>Whether the field is asked of a product.</summary>
    public bool Includes(string productCode) => All || Products.Contains(productCode, StringComparer.Ordinal);

    /// <inheritdoc/>
    public bool Equals(ProductScope? other) =>
        other is not null && All == other.All && Products.SequenceEqual(other.Products, StringComparer.Ordinal);

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(All, Products.Length);
}
