using System.Collections.Immutable;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Sexton.Core.Sentences;
using Sexton.Core.Values;

namespace Sexton.Core.Catalogue.Brought;

/// <summary>A column of a table of products.</summary>
/// <param name="Name">Its name, as in the first row.</param>
/// <param name="Path">The path of the member that it says, as in <see cref="ProductPatch.PlaceOf"/>.</param>
/// <param name="Read">Makes JSON of a cell that is not empty; null where it cannot be read.</param>
/// <param name="Wanted">What is wanted in a cell, for the sentence of a refusal.</param>
internal sealed record ProductColumn(string Name, string Path, Func<string, JsonNode?> Read, string Wanted)
{
    /// <summary>Writes what a product says there; "" for nothing.</summary>
    public required Func<Product, string> Write { get; init; }

    /// <summary>Writes what a variant says there; null where it is said of the product only.</summary>
    public Func<Variant, string>? WriteVariant { get; init; }

    /// <summary>Whether it is a part of the object before the dot of the path, so that a cell that is empty takes away that part only.</summary>
    public bool IsPart => Path.Contains('.', StringComparison.Ordinal);
}

/// <summary>The columns of a table of products: those of every product, and one for each attribute, by its name and kind.</summary>
internal sealed partial class ProductColumns
{
    /// <summary>The columns that say which product or variant a row is about.</summary>
    public const string Code = "code",
        Variant = "variant";

    private const string AttributePrefix = "attribute.",
        PlainNumber = "number",
        Truth = "yes or no",
        Yes = "yes",
        No = "no";

    /// <summary>The columns of every product.</summary>
    /// <param name="currency">The currency of prices (ISO 4217).</param>
    public ProductColumns(string currency)
    {
        var decimals = MoneyText.ExponentOf(currency);
        var price = decimals == 0 ? "Write a whole number, such as 1250." : "Write it as 12.50, without a sign.";
        Fixed =
        [
            .. Said("name", static p => p.Name, static v => v.Name),
            .. Said("description", static p => p.Description),
            new("categories", "categories", Words, "") { Write = static p => string.Join("; ", p.Categories) },
            new("tags", "tags", Words, "") { Write = static p => string.Join("; ", p.Tags) },
            new("price", "price_minor", c => Whole(DecimalText.Shifted(c, decimals)), price)
            {
                Write = p => DecimalText.Of(p.PriceMinor, decimals),
                WriteVariant = v => DecimalText.Of(v.PriceMinor, decimals),
            },
            new("weight_grams", "weight_grams", static c => Whole(DecimalText.Shifted(c, 0)), "Write a whole number of grams.")
            {
                Write = static p => p.WeightGrams == 0 ? "" : DecimalText.Of(p.WeightGrams, 0),
                WriteVariant = static v => v.WeightGrams is { } grams ? DecimalText.Of(grams, 0) : "",
            },
            new("tax_percent", "tax_ppm", static c => Whole(DecimalText.Shifted(c, 4)), "Write it as 13.5, without a sign.")
            {
                Write = static p => p.TaxPpm is { } ppm ? DecimalText.Of(ppm / 10_000m) : "",
            },
            new("untaxed_as", "untaxed_as", Untaxed, $"Write {string.Join(", ", TaxRate.Untaxed.Select(WordOf))}, or leave it empty.")
            {
                Write = static p => p.TaxPpm == 0 ? WordOf(p.UntaxedAs) : "",
            },
            new("ships", "ships", TruthOf, $"Write {Yes} or {No}.") { Write = static p => p.Ships ? Yes : No },
            .. Said("unit_name", static p => p.UnitName),
            new("most_each", "most_each", static c => Whole(DecimalText.Shifted(c, 0)), "Write a whole number, or leave it empty.")
            {
                Write = static p => p.MostEach is { } most ? DecimalText.Of(most, 0) : "",
            },
            new("picture", "picture", static c => c, "") { Write = static p => p.Picture },
            .. Said("picture_words", static p => p.PictureWords),
        ];
    }

    /// <summary>The columns of every product.</summary>
    public ImmutableArray<ProductColumn> Fixed { get; }

    /// <summary>The column with a name, or null.</summary>
    public ProductColumn? Find(string name) =>
        Fixed.FirstOrDefault(c => c.Name == name)
        ?? (
            AttributeColumn().Match(name) is { Success: true } match
                ? OfAttribute(match.Groups["name"].Value, match.Groups["kind"].Value)
                : null
        );

    /// <summary>The columns of the attributes of some products, in the order of their names.</summary>
    public ImmutableArray<ProductColumn> OfAttributes(IEnumerable<Product> products) =>
        [
            .. products
                .SelectMany(static p => p.Attributes.Concat(p.Variants.SelectMany(static v => v.Attributes)))
                .Select(static a => (a.Key, Kind: KindOf(a.Value)))
                .Distinct()
                .Order()
                .Select(static a => OfAttribute(a.Key, a.Kind)),
        ];

    private static ProductColumn OfAttribute(string name, string kind)
    {
        string Write(IReadOnlyDictionary<string, ProductAttribute> attributes) =>
            attributes.TryGetValue(name, out var own) && KindOf(own) == kind
                ? own.Value switch
                {
                    { Number: { } number } => DecimalText.Of(number),
                    { Truth: { } truth } => truth ? Yes : No,
                    { Text: { } text } => text,
                    _ => "",
                }
                : "";
        return new(
            AttributePrefix + name + (kind.Length > 0 ? $" ({kind})" : ""),
            "attributes." + name,
            cell =>
                kind switch
                {
                    "" => Attribute(cell, ""),
                    Truth => TruthOf(cell) is { } truth ? Attribute(truth, "") : null,
                    _ => DecimalText.TryRead(cell, out var number) ? Attribute(number, kind == PlainNumber ? "" : kind) : null,
                },
            kind == Truth ? $"Write {Yes} or {No}." : "Write a number, such as 2.5, without its unit."
        )
        {
            Write = p => Write(p.Attributes),
            WriteVariant = v => Write(v.Attributes),
        };
    }

    private static JsonObject Attribute(JsonNode value, string unit) => new() { ["value"] = value, ["unit"] = unit };

    // A text has no kind in its heading, a number its unit.
    private static string KindOf(ProductAttribute attribute) =>
        attribute.Value.Truth is not null ? Truth
        : attribute.Value.Number is null ? ""
        : attribute.Unit.Length > 0 ? attribute.Unit
        : PlainNumber;

    private static IEnumerable<ProductColumn> Said(
        string name,
        Func<Product, LanguageMap> of,
        Func<Variant, LanguageMap>? ofVariant = null
    ) =>
        Wording.Languages.Select(l => new ProductColumn($"{name}.{l.Tag}", $"{name}.{l.Tag}", static c => c, "")
        {
            Write = p => of(p).Texts.GetValueOrDefault(l.Tag, ""),
            WriteVariant = ofVariant is null ? null : v => ofVariant(v).Texts.GetValueOrDefault(l.Tag, ""),
        });

    private static JsonArray Words(string cell) =>
        [.. cell.Split(';', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries).Select(static w => (JsonNode)w)];

    private static JsonNode? TruthOf(string cell) =>
        cell.ToLowerInvariant() switch
        {
            Yes => true,
            No => false,
            _ => null,
        };

    private static JsonNode? Untaxed(string cell) =>
        TaxRate.Untaxed.Select(WordOf).FirstOrDefault(w => w == cell) is { } word ? word : null;

    private static string WordOf(TaxCategory category) => category.ToString().ToLowerInvariant();

    private static JsonNode? Whole(long? number) => number is { } whole ? JsonValue.Create(whole) : null;

    [GeneratedRegex(@"\Aattribute\.(?<name>[^ ]+)(?: \((?<kind>[^()]+)\))?\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex AttributeColumn();
}
