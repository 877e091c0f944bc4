using System.Collections.Immutable;
using System.Text.Json.Serialization;
using Sexton.Core.Values;

namespace Sexton.Core.Catalogue;

/// <summary>A product of the shop, as the rules know it and as it stands in files and rows.</summary>
/// <param name="Code">The external code; the SKU in the trade's word.</param>
/// <param name="Name">Its name.</param>
/// <param name="Categories">The names of the categories in which it stands, the foremost first; at least one.</param>
/// <param name="PriceMinor">The price of one, in minor units; at least 0. A variant has its own.</param>
public sealed record Product(string Code, LanguageMap Name, ImmutableArray<string> Categories, long PriceMinor)
{
    /// <summary>The greatest number that can be set for <see cref="MostEach"/>, of a product or of a field.</summary>
    public const int MostOfEach = 999;

    /// <summary>The greatest price, in minor units.</summary>
    public const long MostMinor = 1_000_000_000;

    /// <summary>A sentence about it.</summary>
    public LanguageMap Description { get; init; } = LanguageMap.Empty;

    /// <summary>Words that products share across categories.</summary>
    public ImmutableArray<string> Tags { get; init; } = [];

    /// <summary>Its typed attributes, such as its height, by name.</summary>
    public ImmutableSortedDictionary<string, ProductAttribute> Attributes { get; init; } =
        ImmutableSortedDictionary<string, ProductAttribute>.Empty;

    /// <summary>Its variants; a line of a product with variants names one.</summary>
    public ImmutableArray<Variant> Variants { get; init; } = [];

    /// <summary>What one of it is called: "Seat". Empty for a plain "No."</summary>
    public LanguageMap UnitName { get; init; } = LanguageMap.Empty;

    /// <summary>How many of it one line takes at most where each one is asked for; null for as many as a cart takes.</summary>
    public int? MostEach { get; init; }

    /// <summary>Whether it is sent to an address; a walk is not.</summary>
    public bool Ships { get; init; } = true;

    /// <summary>What one weighs, in grams; at least 0. A variant has its own.</summary>
    public int WeightGrams { get; init; }

    /// <summary>The name of its picture; "" for none.</summary>
    public string Picture { get; init; } = "";

    /// <summary>What the picture shows, for those who cannot see it; none where it says nothing more than the name.</summary>
    public LanguageMap PictureWords { get; init; } = LanguageMap.Empty;

    /// <summary>Its tax rate in parts per million; null for the shop's standard rate.</summary>
    public int? TaxPpm { get; init; }

    /// <summary>Why its own rate is nothing, where it is.</summary>
    public TaxCategory UntaxedAs { get; init; } = TaxCategory.Zero;

    /// <summary>Its tax rate; null for the shop's standard rate.</summary>
    [JsonIgnore]
    public TaxRate? Tax => TaxPpm is { } ppm ? TaxRate.Of(ppm, UntaxedAs) : null;
}

/// <summary>A variant of a product.</summary>
/// <param name="Code">Its external code.</param>
/// <param name="Name">Its name, such as "large".</param>
/// <param name="PriceMinor">The price of one, in minor units; at least 0.</param>
public sealed record Variant(string Code, LanguageMap Name, long PriceMinor)
{
    /// <summary>What one weighs, in grams; null for as much as the product.</summary>
    public int? WeightGrams { get; init; }

    /// <summary>Its typed attributes; one of the same name as the product's stands in its place.</summary>
    public ImmutableSortedDictionary<string, ProductAttribute> Attributes { get; init; } =
        ImmutableSortedDictionary<string, ProductAttribute>.Empty;
}

/// <summary>A typed attribute of a product.</summary>
/// <param name="Value">Its value: a text, a number, or true or false.</param>
/// <param name="Unit">The unit of a number, or "".</param>
public sealed record ProductAttribute(AnswerValue Value, string Unit = "");

/// <summary>A group of shoppers, such as "trade".</summary>
/// <param name="Key">Its stable key.</param>
/// <param name="Name">What it is called.</param>
public sealed record ShopperGroup(string Key, LanguageMap Name);

/// <summary>What a line is of: a product, and its variant if it has any.</summary>
/// <param name="Product">The product.</param>
/// <param name="Variant">The variant, or null.</param>
public readonly record struct Goods(Product Product, Variant? Variant)
{
    /// <summary>The price of one, in minor units.</summary>
    public long PriceMinor => Variant?.PriceMinor ?? Product.PriceMinor;

    /// <summary>What one weighs, in grams.</summary>
    public int WeightGrams => Variant?.WeightGrams ?? Product.WeightGrams;

    /// <summary>The code under which it is sold.</summary>
    public string Code => Variant?.Code ?? Product.Code;

    /// <summary>An attribute, or null.</summary>
    public ProductAttribute? Attribute(string name) =>
        Variant is not null && Variant.Attributes.TryGetValue(name, out var own) ? own : Product.Attributes.GetValueOrDefault(name);

    /// <summary>What it is called, with its variant.</summary>
    public string NameIn(string language) =>
        Variant is null ? Product.Name.In(language) : $"{Product.Name.In(language)}, {Variant.Name.In(language)}";
}
