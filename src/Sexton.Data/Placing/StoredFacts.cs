using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using Sexton.Core.Catalogue;
using Sexton.Core.Orders;
using Sexton.Core.Values;
using Sexton.Data.Rows;
using Sexton.Data.Sealing;

namespace Sexton.Data.Placing;

/// <summary>The facts of an order as they stand in its row.</summary>
/// <param name="Group">The key of the shopper's group.</param>
/// <param name="Country">The country of the shopper.</param>
/// <param name="Day">The day on which it was evaluated.</param>
/// <param name="NotAsked">What was not asked, and why.</param>
public sealed record StoredFacts(string Group, string Country, DateOnly Day, ImmutableArray<NotAskedAnswer> NotAsked)
{
    /// <summary>What it uses up.</summary>
    public ImmutableArray<OrderUsage> Uses { get; init; } = [];

    /// <summary>What it weighs, in grams.</summary>
    public long WeightGrams { get; init; }

    /// <summary>What registries said of answers.</summary>
    public ImmutableArray<OrderLookup> Lookups { get; init; } = [];

    /// <summary>Those of an order.</summary>
    public static StoredFacts Of(OrderContent order) =>
        new(order.Group, order.Country, order.Day, order.NotAsked)
        {
            Uses = order.Uses,
            WeightGrams = order.WeightGrams,
            Lookups = order.Lookups,
        };

    private const string Purpose = "facts";

    /// <summary>What there is of an order that was erased.</summary>
    public static readonly StoredFacts Erased = new("", "", default, []);

    /// <summary>Seals them.</summary>
    public byte[] Seal(DataKey key) => key.SealPacked(JsonSerializer.SerializeToUtf8Bytes(this, DocumentJson.Options), Purpose);

    /// <summary>Opens them.</summary>
    public static StoredFacts Open(byte[] facts, DataKey key) =>
        JsonSerializer.Deserialize<StoredFacts>(key.Open(facts, Purpose), DocumentJson.Options)!;
}

/// <summary>The facts of a line as they stand in its row: what is empty, or as the row has it already, is left out.</summary>
/// <param name="Category">The name of its foremost category.</param>
/// <param name="Ships">Whether it is sent.</param>
/// <param name="CatalogueMinor">The price of one in the catalogue, in minor units.</param>
public sealed record StoredLineFacts(string Category, bool Ships, long CatalogueMinor)
{
    private static readonly JsonSerializerOptions Brief = new(DocumentJson.Options)
    {
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
    };

    /// <summary>The code of the product, where it was sold under that of a variant.</summary>
    public string? ProductCode { get; init; }

    /// <summary>The names of the other categories in which it stood.</summary>
    public ImmutableArray<string>? AlsoIn { get; init; }

    /// <summary>Its tags.</summary>
    public ImmutableArray<string>? Tags { get; init; }

    /// <summary>Its typed attributes, those of the variant among them.</summary>
    public ImmutableSortedDictionary<string, ProductAttribute>? Attributes { get; init; }

    /// <summary>What one of its units is called.</summary>
    public string? UnitName { get; init; }

    /// <summary>The sentence by which its units are called, where it was not as shipped.</summary>
    public string? UnitSentence { get; init; }

    /// <summary>Writes those of a line, as JSON.</summary>
    public static string Write(OrderLine line)
    {
        var facts = line.Facts;
        return JsonSerializer.Serialize(
            new StoredLineFacts(facts.Categories[0], facts.Ships, facts.CatalogueMinor)
            {
                ProductCode = facts.VariantCode is null ? null : facts.ProductCode,
                AlsoIn = facts.Categories.Length == 1 ? null : facts.Categories[1..],
                Tags = facts.Tags.IsEmpty ? null : facts.Tags,
                Attributes = facts.Attributes.IsEmpty ? null : facts.Attributes,
                UnitName = line.UnitName.Length == 0 ? null : line.UnitName,
                UnitSentence = line.UnitSentence.Length == 0 ? null : line.UnitSentence,
            },
            Brief
        );
    }

    /// <summary>The line of a row.</summary>
    /// <param name="row">The row.</param>
    /// <param name="units">The ids of its units, in their order.</param>
    public static OrderLine Read(OrderLineRow row, ImmutableArray<string> units)
    {
        var stored = JsonSerializer.Deserialize<StoredLineFacts>(row.Facts, Brief)!;
        var facts = new LineFacts(
            stored.ProductCode ?? row.ProductCode,
            stored.ProductCode is null ? null : row.ProductCode,
            [stored.Category, .. stored.AlsoIn ?? []],
            stored.Tags ?? [],
            stored.Attributes ?? ImmutableSortedDictionary<string, ProductAttribute>.Empty,
            stored.Ships,
            stored.CatalogueMinor
        );
        return new OrderLine(row.LineId, row.ProductCode, row.ProductName, row.Quantity, facts)
        {
            ItemCode = row.ItemCode,
            Units = units,
            UnitName = stored.UnitName ?? "",
            UnitSentence = stored.UnitSentence ?? "",
        };
    }
}
