namespace Sexton.Data.Rows;

/// <summary>How far a file of products is.</summary>
public enum ProductImportState
{
    /// <summary>It is being read.</summary>
    Reading,

    /// <summary>It was read: what it would change is known, or what keeps it from being taken.</summary>
    Read,

    /// <summary>It is being taken.</summary>
    Taking,

    /// <summary>It was taken, all of it.</summary>
    Taken,
}

/// <summary>A file of products that somebody brought in: for them, and for a day.</summary>
public sealed class ProductImportRow
{
    /// <summary>Its id.</summary>
    public required Guid Id { get; init; }

    /// <summary>The account that brought it in.</summary>
    public required string Account { get; init; }

    /// <summary>The name of the file.</summary>
    public required string Name { get; init; }

    /// <summary>Whether it is JSON; else it is CSV.</summary>
    public required bool IsJson { get; init; }

    /// <summary>The file.</summary>
    public required byte[] File { get; init; }

    /// <summary>When it was brought in.</summary>
    public required DateTimeOffset At { get; init; }

    /// <summary>How far it is.</summary>
    public required ProductImportState State { get; set; }

    /// <summary>How many products it has; 0 while they are not counted.</summary>
    public int Count { get; set; }

    /// <summary>How many of them were read, or taken.</summary>
    public int Done { get; set; }

    /// <summary>When something was last done about it: one that nobody does anything about any more stays as it is.</summary>
    public required DateTimeOffset BeatAt { get; set; }

    /// <summary>What it would change and what is wrong with it, as JSON; null before it was read.</summary>
    public string? Outcome { get; set; }

    /// <summary>Tells these changes from others; null before it was read.</summary>
    public string? Digest { get; set; }

    /// <summary>Why it went no further, in a sentence; null where nothing went wrong.</summary>
    public string? Failed { get; set; }
}
