using System.Collections.Immutable;
using System.Text.Json.Nodes;

namespace Sexton.Core.Catalogue.Brought;

/// <summary>Something of a file of products that cannot be taken.</summary>
/// <param name="Row">The row of the table, from 1 for the one with the names of the columns; of a JSON file the product, from 1; 0 for the file as a whole.</param>
/// <param name="Column">The name of the column, or of the member; "" for the row as a whole.</param>
/// <param name="Sentence">What is wrong and how to mend it.</param>
public sealed record ProductFault(int Row, string Column, string Sentence);

/// <summary>What a file says of one product: what it does not say stays as it is.</summary>
/// <param name="Code">The code of the product.</param>
/// <param name="Row">Where it stands, as in <see cref="ProductFault.Row"/>.</param>
/// <param name="Said">A merge patch (RFC 7396) for the product as JSON.</param>
public sealed record ProductPatch(string Code, int Row, JsonObject Said)
{
    /// <summary>Merge patches for the variants, by their codes and in their order: one that is not among them is taken away. Null where the file says nothing of variants by row.</summary>
    public ImmutableArray<VariantPatch>? Variants { get; init; }

    /// <summary>What is wrong with it by itself.</summary>
    public ImmutableArray<ProductFault> Faults { get; init; } = [];

    /// <summary>Where a member of the product stands in the file, by its path, such as "variants.2.price_minor".</summary>
    public Func<string, (int Row, string Column)>? PlaceOf { get; init; }

    /// <summary>The fault of a member.</summary>
    internal ProductFault FaultAt(string path, string sentence)
    {
        var (row, column) = PlaceOf is null ? (Row, path) : PlaceOf(path);
        return new ProductFault(row, column, sentence);
    }
}

/// <summary>What a file says of one variant in a row of its own.</summary>
/// <param name="Code">Its code.</param>
/// <param name="Row">The row.</param>
/// <param name="Said">A merge patch for the variant as JSON.</param>
public sealed record VariantPatch(string Code, int Row, JsonObject Said);
