namespace Sexton.Data.Rows;

/// <summary>What goes to a destination as one, of many orders. Who is in it stays so however often it is tried, so that a file that was there already is known again.</summary>
public sealed class GatheredRow
{
    /// <summary>Counts up.</summary>
    public long Id { get; init; }

    /// <summary>The key of the destination.</summary>
    public required string Destination { get; init; }

    /// <summary>The day for which it is, where the shop is.</summary>
    public required DateOnly Day { get; init; }

    /// <summary>Its number among those of its destination and day, from 1.</summary>
    public required int Number { get; init; }

    /// <summary>When it was begun.</summary>
    public required DateTimeOffset At { get; init; }

    /// <summary>SHA-256 of what was sent last, put down before it was: what is found there is known again by it. Null before.</summary>
    public byte[]? Hash { get; set; }
}

/// <summary>A payload that goes within something gathered.</summary>
public sealed class GatheredPartRow
{
    /// <summary>What it goes within.</summary>
    public required long GatheredId { get; init; }

    /// <summary>The lane.</summary>
    public required long LaneId { get; init; }

    /// <summary>The number of the payload.</summary>
    public required int Sequence { get; init; }
}
