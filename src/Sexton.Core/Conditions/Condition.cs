using System.Collections.Immutable;
using System.Text.Json.Serialization;
using Sexton.Core.Facts;
using Sexton.Core.Values;

namespace Sexton.Core.Conditions;

/// <summary>
/// When something applies, as plain data: tests, joined in groups, and counted over lines or units. Two-valued: a comparison with something
/// unanswered or unasked is false, "was not given" is then true, and "is not X" means answered and different.
/// </summary>
[JsonConverter(typeof(ConditionJson))]
public abstract record Condition
{
    /// <summary>This condition and all that are part of it.</summary>
    public abstract IEnumerable<Condition> Walk();

    /// <summary>The same condition about another fact in place of one.</summary>
    /// <param name="fact">The key of the fact.</param>
    /// <param name="other">The key of the one in its place.</param>
    public abstract Condition About(string fact, string other);
}

/// <summary>How the parts of a group are joined.</summary>
public enum GroupKind
{
    /// <summary>Every part must hold; holds when there is none.</summary>
    All,

    /// <summary>At least one part must hold; does not hold when there is none.</summary>
    Any,

    /// <summary>No part may hold; holds when there is none.</summary>
    None,
}

/// <summary>Conditions joined.</summary>
/// <param name="Kind">How.</param>
/// <param name="Parts">The parts.</param>
public sealed record ConditionGroup(GroupKind Kind, ImmutableArray<Condition> Parts) : Condition
{
    /// <inheritdoc/>
    public override IEnumerable<Condition> Walk() => Parts.SelectMany(static p => p.Walk()).Prepend(this);

    /// <inheritdoc/>
    public override Condition About(string fact, string other) => this with { Parts = [.. Parts.Select(p => p.About(fact, other))] };

    /// <inheritdoc/>
    public bool Equals(ConditionGroup? other) => other is not null && Kind == other.Kind && Parts.SequenceEqual(other.Parts);

    /// <inheritdoc/>
    public override int GetHashCode() => Parts.Aggregate((int)Kind, HashCode.Combine);
}

/// <summary>One fact compared with a value, or with another fact of the same place or one around it.</summary>
/// <param name="Fact">The key of the fact; see <see cref="ShopFacts"/>.</param>
/// <param name="Relation">How it is compared.</param>
/// <param name="Value">What it is compared with; null where the relation takes none, and where it is another fact.</param>
/// <param name="Other">The key of the fact that it is compared with, or null. Where either is not there, the comparison is false.</param>
public sealed record ConditionTest(string Fact, Relation Relation, AnswerValue? Value = null, string? Other = null) : Condition
{
    /// <summary>The keys of the facts that it reads.</summary>
    public IEnumerable<string> Facts => Other is null ? [Fact] : [Fact, Other];

    /// <inheritdoc/>
    public override IEnumerable<Condition> Walk() => [this];

    /// <inheritdoc/>
    public override Condition About(string fact, string other) =>
        this with
        {
            Fact = Fact == fact ? other : Fact,
            Other = Other == fact ? other : Other,
        };
}

/// <summary>Over how many lines or units something must hold.</summary>
public enum Quantifier
{
    /// <summary>Over at least one.</summary>
    Any,

    /// <summary>Over every one; over nothing it does not hold.</summary>
    Every,

    /// <summary>Over no one; over nothing it holds.</summary>
    None,

    /// <summary>Over as many as a comparison says.</summary>
    Count,
}

/// <summary>
/// Something tested of every line of the cart, or of every unit: of the line at hand, or of all lines where there is none at hand.
/// The body tests the facts and answers of one line or unit together.
/// </summary>
/// <param name="Quantifier">Over how many it must hold.</param>
/// <param name="Of">Lines or units.</param>
/// <param name="Where">What is tested of each; null for nothing, so that all of them count.</param>
/// <param name="Relation">How the count is compared; only with <see cref="Quantifier.Count"/>.</param>
/// <param name="Count">What the count is compared with; only with <see cref="Quantifier.Count"/>.</param>
public sealed record ConditionOver(Quantifier Quantifier, Level Of, Condition? Where, Relation? Relation = null, int? Count = null)
    : Condition
{
    /// <inheritdoc/>
    public override IEnumerable<Condition> Walk() => (Where?.Walk() ?? []).Prepend(this);

    /// <inheritdoc/>
    public override Condition About(string fact, string other) => this with { Where = Where?.About(fact, other) };
}
