using System.Collections.Immutable;
using System.Text.Json.Serialization;
using Sexton.Core.Catalogue;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Values;

namespace Sexton.Core.Pricing;

/// <summary>What a price does to what a line or an order costs.</summary>
public enum PriceKind
{
    /// <summary>Is the price of one of the line, in place of the catalogue's. Only for fields asked per line.</summary>
    ForTheGoods,

    /// <summary>Comes on top of each one: of every piece of a line, or of the one unit that was answered.</summary>
    PerUnit,

    /// <summary>A share of the price of the goods, catalogue's or answered, without what other answers add.</summary>
    Percent,

    /// <summary>Comes on top once, however many pieces the line has.</summary>
    OncePerLine,

    /// <summary>Comes on top once, however often it is answered.</summary>
    OncePerOrder,
}

/// <summary>What an answer, or one choice of it, costs. Amounts are integer minor units (ISO 4217); one below zero takes off.</summary>
public sealed record Price
{
    /// <summary>What it does.</summary>
    public required PriceKind Kind { get; init; }

    /// <summary>What of the answer the amount is taken times.</summary>
    public AnswerMeasure By { get; init; } = AnswerMeasure.Answer;

    /// <summary>Whether words are counted by white space alone, so that a telephone number or a date of three parts is three; only by the word.</summary>
    public bool WordsAreRuns { get; init; }

    /// <summary>The key of the choice that costs it; null for the answer as a whole.</summary>
    public string? Choice { get; init; }

    /// <summary>What it comes to.</summary>
    public Tariff Tariff { get; init; } = Tariff.Nothing;

    /// <summary>How many letters, characters, words or picks are included; at least 0.</summary>
    public int Included { get; init; }

    /// <summary>Whether the band that the count falls in is the price of all of it; else each piece is priced by its own band.</summary>
    public bool BandForAll { get; init; }

    /// <summary>What it comes to for a group of shoppers or a variant, where that differs.</summary>
    public ImmutableArray<PriceOverride> For { get; init; } = [];

    /// <summary>The condition under which it costs that; null for always.</summary>
    public Condition? When { get; init; }

    /// <summary>The tax rate in parts per million; null for that of the product, and of the shop for what is charged per order.</summary>
    public int? TaxPpm { get; init; }

    /// <summary>Why a rate of its own of nothing is that; null for <see cref="TaxCategory.Zero"/>.</summary>
    public TaxCategory? UntaxedAs { get; init; }

    /// <summary>The tax rate; null for that of the product, and of the shop for what is charged per order.</summary>
    [JsonIgnore]
    public TaxRate? Tax => TaxPpm is { } ppm ? TaxRate.Of(ppm, UntaxedAs ?? TaxCategory.Zero) : null;

    /// <summary>What its row is called; empty for the question and the choice.</summary>
    public LanguageMap Label { get; init; } = LanguageMap.Empty;
}

/// <summary>Amounts that hang together: an amount, its bands and its ceiling; or a share.</summary>
public sealed record Tariff
{
    /// <summary>Costs nothing.</summary>
    public static readonly Tariff Nothing = new();

    /// <summary>The greatest amount that can be set, in minor units, either way.</summary>
    public const long MostMinor = Product.MostMinor;

    /// <summary>The greatest share that can be set: ten times the price, in parts per million, either way.</summary>
    public const int MostPpm = 10_000_000;

    /// <summary>The amount, in minor units.</summary>
    public long Minor { get; init; }

    /// <summary>The share, in parts per million; only of <see cref="PriceKind.Percent"/>.</summary>
    public int Ppm { get; init; }

    /// <summary>Other amounts from some count on, in rising order.</summary>
    public ImmutableArray<PriceBand> Bands { get; init; } = [];

    /// <summary>What one answer comes to at most, whether it adds or takes off; null for no end.</summary>
    public long? CeilingMinor { get; init; }
}

/// <summary>The amount for what is over a count.</summary>
/// <param name="Over">The count; what is over it costs this. At least 0, at most <see cref="Tariff.MostMinor"/>.</param>
/// <param name="Minor">The amount, in minor units.</param>
public sealed record PriceBand(decimal Over, long Minor);

/// <summary>A tariff for some: a group of shoppers, a variant of the product, or both at once. The closest fit counts.</summary>
/// <param name="Group">The key of the shopper group, or null for any.</param>
/// <param name="Variant">The code of the variant, or null for any.</param>
/// <param name="Tariff">What it comes to for them.</param>
public sealed record PriceOverride(string? Group, string? Variant, Tariff Tariff)
{
    /// <summary>How close it fits: a variant says more of the goods than a group of the shopper.</summary>
    [JsonIgnore]
    public int Closeness => (Variant is null ? 0 : 2) + (Group is null ? 0 : 1);
}
