using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Orders;
using Sexton.Core.Types;
using Sexton.Core.Values;
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

/// <summary>The facts of a line as they stand in its row.</summary>
/// <param name="Facts">What conditions read.</param>
/// <param name="UnitName">What one of them is called.</param>
public sealed record StoredLineFacts(LineFacts Facts, string UnitName)
{
    /// <summary>Those of a line.</summary>
    public static StoredLineFacts Of(OrderLine line) => new(line.Facts, line.UnitName);
}
