using System.Collections.Immutable;
using Sexton.Core.Orders;
using Sexton.Core.Types;

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
}

/// <summary>The facts of a line as they stand in its row.</summary>
/// <param name="Facts">What conditions read.</param>
/// <param name="Units">The ids of its units.</param>
/// <param name="UnitName">What one of them is called.</param>
public sealed record StoredLineFacts(LineFacts Facts, ImmutableArray<string> Units, string UnitName)
{
    /// <summary>Those of a line.</summary>
    public static StoredLineFacts Of(OrderLine line) => new(line.Facts, line.Units, line.UnitName);
}
