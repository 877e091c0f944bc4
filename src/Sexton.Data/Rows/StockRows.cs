namespace Sexton.Data.Rows;

/// <summary>What there is of something that is counted. The database lets it never fall below what is held, nor below nothing.</summary>
public sealed class StockRow
{
    /// <summary>The code under which it is kept: of a product, a variant, or a choice that has stock of its own.</summary>
    public required string Item { get; init; }

    /// <summary>How many are on the shelf; at least 0.</summary>
    public required long OnHand { get; set; }

    /// <summary>How many of them attempts hold that may become orders; at least 0.</summary>
    public required long Held { get; set; }
}

/// <summary>What an attempt holds until it becomes an order or ends.</summary>
public sealed class StockHoldRow
{
    /// <summary>The attempt.</summary>
    public required Guid AttemptId { get; init; }

    /// <summary>What.</summary>
    public required string Item { get; init; }

    /// <summary>How many; at least 1.</summary>
    public required long Quantity { get; init; }
}

/// <summary>A change of what is on the shelf.</summary>
public sealed class StockMovementRow
{
    /// <summary>Counts up.</summary>
    public long Id { get; init; }

    /// <summary>What.</summary>
    public required string Item { get; init; }

    /// <summary>How many came; below zero, how many left.</summary>
    public required long Quantity { get; init; }

    /// <summary>When.</summary>
    public required DateTimeOffset At { get; init; }

    /// <summary>The order that took it, or null.</summary>
    public Guid? OrderId { get; init; }

    /// <summary>The account that counted it anew, or null.</summary>
    public string? Actor { get; init; }
}
