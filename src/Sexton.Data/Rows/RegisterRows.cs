namespace Sexton.Data.Rows;

/// <summary>A product of the shop; imported, found by its external code.</summary>
public sealed class ProductRow
{
    /// <summary>The external code.</summary>
    public required string Code { get; init; }

    /// <summary>The name, a language map as JSON.</summary>
    public required string Name { get; set; }

    /// <summary>A sentence about it, a language map as JSON.</summary>
    public required string Description { get; set; }

    /// <summary>The name of its category.</summary>
    public required string Category { get; set; }

    /// <summary>The price of one, in minor units.</summary>
    public required long PriceMinor { get; set; }

    /// <summary>The file name of its picture.</summary>
    public required string Picture { get; set; }

    /// <summary>Its place in the catalogue.</summary>
    public required int Position { get; set; }
}

/// <summary>A field of the draft.</summary>
public sealed class DraftFieldRow
{
    /// <summary>The key of the field.</summary>
    public required string Key { get; init; }

    /// <summary>Its place among the fields.</summary>
    public required int Position { get; set; }

    /// <summary>The field, as JSON.</summary>
    public required string Definition { get; set; }

    /// <summary>Counts changes; the entity tag of the field.</summary>
    public required int Revision { get; set; }
}

/// <summary>One change to the draft: who, when, what it was and what it became. Its inverse is what undoes it.</summary>
public sealed class DraftChangeRow
{
    /// <summary>Counts up.</summary>
    public long Id { get; init; }

    /// <summary>The account that made it.</summary>
    public required string Actor { get; init; }

    /// <summary>When.</summary>
    public required DateTimeOffset At { get; init; }

    /// <summary>The key of the field.</summary>
    public required string Field { get; init; }

    /// <summary>The path of the setting; "" when the whole field was added or removed.</summary>
    public required string Setting { get; init; }

    /// <summary>The value before, as JSON; null when the field was added.</summary>
    public required string? Before { get; init; }

    /// <summary>The value after, as JSON; null when the field was removed.</summary>
    public required string? After { get; init; }

    /// <summary>Whether it was undone.</summary>
    public bool Undone { get; set; }
}

/// <summary>A published version of the register. Never changed.</summary>
public sealed class RegisterVersionRow
{
    /// <summary>The number, from 1.</summary>
    public required int Number { get; init; }

    /// <summary>What it is for.</summary>
    public required string Note { get; init; }

    /// <summary>The register, as JSON.</summary>
    public required string Content { get; init; }

    /// <summary>The name of the account that published it.</summary>
    public required string PublishedBy { get; init; }

    /// <summary>When.</summary>
    public required DateTimeOffset PublishedAt { get; init; }
}
