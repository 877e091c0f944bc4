namespace Sexton.Data.Rows;

/// <summary>The papers of a day as one file, being made or made: for whoever asked for it, and for an hour.</summary>
public sealed class BoundPapersRow
{
    /// <summary>Its id.</summary>
    public required Guid Id { get; init; }

    /// <summary>The account that asked for it.</summary>
    public required string Account { get; init; }

    /// <summary>The key of the destination.</summary>
    public required string Destination { get; init; }

    /// <summary>The day on which they were printed, where the shop is.</summary>
    public required DateOnly Day { get; init; }

    /// <summary>How many papers there are to bind.</summary>
    public required int Count { get; init; }

    /// <summary>How many of them were taken up so far.</summary>
    public required int Done { get; set; }

    /// <summary>When it was asked for.</summary>
    public required DateTimeOffset At { get; init; }

    /// <summary>When something was last done about it: one that nobody does anything about any more is not made to its end.</summary>
    public required DateTimeOffset BeatAt { get; set; }

    /// <summary>The file (PDF), wrapped by the key of the installation; null before it is made.</summary>
    public byte[]? File { get; set; }

    /// <summary>Why it cannot be made, in a sentence; null where nothing went wrong.</summary>
    public string? Failed { get; set; }
}
