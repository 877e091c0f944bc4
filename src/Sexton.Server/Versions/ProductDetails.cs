using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Catalogue;
using Sexton.Core.Values;
using Sexton.Data.Rows;

namespace Sexton.Server.Versions;

/// <summary>What the rules know of a product besides its columns, as it stands in its row and in the file that is imported.</summary>
internal sealed record ProductDetails
{
    public ImmutableArray<string> Tags { get; init; } = [];

    public ImmutableSortedDictionary<string, ProductAttribute> Attributes { get; init; } =
        ImmutableSortedDictionary<string, ProductAttribute>.Empty;

    public ImmutableArray<Variant> Variants { get; init; } = [];

    public LanguageMap UnitName { get; init; } = LanguageMap.Empty;

    public int? MostEach { get; init; }

    public bool Ships { get; init; } = true;

    public LanguageMap PictureWords { get; init; } = LanguageMap.Empty;

    public int? TaxPpm { get; init; }

    /// <summary>Why its own rate is nothing; only where it is.</summary>
    public TaxCategory? UntaxedAs { get; init; }

    public int WeightGrams { get; init; }

    /// <summary>The product of a row.</summary>
    public static Product ProductOf(ProductRow row)
    {
        var details = JsonSerializer.Deserialize<ProductDetails>(row.Details, DocumentJson.Options)!;
        return new Product(row.Code, JsonSerializer.Deserialize<LanguageMap>(row.Name)!, row.Category, row.PriceMinor)
        {
            Tags = details.Tags,
            Attributes = details.Attributes,
            Variants = details.Variants,
            UnitName = details.UnitName,
            MostEach = details.MostEach,
            Ships = details.Ships,
            Picture = row.Picture,
            PictureWords = details.PictureWords,
            TaxPpm = details.TaxPpm,
            UntaxedAs = details.UntaxedAs ?? TaxCategory.Zero,
            WeightGrams = details.WeightGrams,
        };
    }
}
