namespace Sexton.Data.Rows;

/// <summary>A product of the shop; imported, found by its external code.</summary>
public sealed class ProductRow
{
    /// <summary>The external code.</summary>
    public required string Code { get; init; }

    /// <summary>Its place in the catalogue.</summary>
    public required int Position { get; init; }

    /// <summary>The product, as JSON.</summary>
    public required string Document { get; set; }
}

/// <summary>The one row that says which catalogue there is. Its change commits together with the products, so nobody sees one without the other.</summary>
public sealed class CatalogueStateRow
{
    /// <summary>Always 1.</summary>
    public required int Id { get; init; }

    /// <summary>Counts the imports.</summary>
    public required long Revision { get; set; }
}

/// <summary>A group of shoppers.</summary>
public sealed class ShopperGroupRow
{
    /// <summary>The stable key.</summary>
    public required string Key { get; init; }

    /// <summary>What it is called, a language map as JSON.</summary>
    public required string Name { get; set; }

    /// <summary>Its place; the first is the group of everybody who is not known.</summary>
    public required int Position { get; set; }
}

/// <summary>A code that takes something off an order.</summary>
public sealed class CouponRow
{
    /// <summary>The code.</summary>
    public required string Code { get; init; }

    /// <summary>What its row is called, a language map as JSON.</summary>
    public required string Name { get; set; }

    /// <summary>The share that it takes off, in parts per million.</summary>
    public required int Ppm { get; set; }

    /// <summary>The amount that it takes off, in minor units.</summary>
    public required long Minor { get; set; }
}

/// <summary>What a row of the draft is.</summary>
public enum DraftItemKind
{
    /// <summary>A field.</summary>
    Field,

    /// <summary>A section.</summary>
    Section,

    /// <summary>A step of the shop's own.</summary>
    Step,

    /// <summary>The rules of item codes; one row.</summary>
    Codes,

    /// <summary>A destination.</summary>
    Destination,

    /// <summary>What the shop says in words of its own; one row.</summary>
    Sentences,
}

/// <summary>A field, section, step or destination of the draft.</summary>
public sealed class DraftItemRow
{
    /// <summary>The key; those of fields, sections, steps and destinations never meet.</summary>
    public required string Key { get; init; }

    /// <summary>What it is.</summary>
    public required DraftItemKind Kind { get; init; }

    /// <summary>Where it stands among its kind: items are sorted by it (ordinal), and between any two there is room.</summary>
    public required string Rank { get; set; }

    /// <summary>The field, section or step, as JSON.</summary>
    public required string Definition { get; set; }

    /// <summary>Counts changes; its entity tag.</summary>
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

    /// <summary>What was changed.</summary>
    public required DraftItemKind Kind { get; init; }

    /// <summary>The key of the field, section or step.</summary>
    public required string Field { get; init; }

    /// <summary>The path of the setting; "position" for where it stands, "" when the whole was added or removed.</summary>
    public required string Setting { get; init; }

    /// <summary>The value before, as JSON; null when the field was added.</summary>
    public required string? Before { get; init; }

    /// <summary>The value after, as JSON; null when the field was removed.</summary>
    public required string? After { get; init; }

    /// <summary>Whether it can be undone: it undoes nothing itself, was not undone yet, and did not change the live shop too.</summary>
    public required bool CanUndo { get; set; }

    /// <summary>The revision of what was changed, afterwards.</summary>
    public required int Revision { get; init; }

    /// <summary>The name by which others know who made it.</summary>
    public required string ActorName { get; init; }
}

/// <summary>A problem of the draft that is meant, accepted with a reason. It is quiet until what it rests on changes.</summary>
public sealed class AcceptedProblemRow
{
    /// <summary>The code of the check.</summary>
    public required string Code { get; init; }

    /// <summary>The key of the field.</summary>
    public required string Field { get; init; }

    /// <summary>The path of the setting.</summary>
    public required string Setting { get; init; }

    /// <summary>What it rests on.</summary>
    public required string Basis { get; set; }

    /// <summary>Why it is meant.</summary>
    public required string Reason { get; set; }

    /// <summary>The name of the account that accepted it.</summary>
    public required string By { get; set; }

    /// <summary>When.</summary>
    public required DateTimeOffset At { get; set; }
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

    /// <summary>How many fields it has.</summary>
    public required int FieldCount { get; init; }

    /// <summary>What it changed, by labels as they were.</summary>
    public required string[] Changed { get; init; }

    /// <summary>The name of the account that published it.</summary>
    public required string PublishedBy { get; init; }

    /// <summary>When it was published.</summary>
    public required DateTimeOffset PublishedAt { get; init; }

    /// <summary>From when on it is in force: of all that are in force by the clock of the database, the one that came last is current.</summary>
    public DateTimeOffset CurrentFrom { get; init; }
}
