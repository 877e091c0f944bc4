using System.Collections.Immutable;
using Sexton.Core.Facts;

namespace Sexton.Core.Conditions;

/// <summary>How a test compares a fact with a value.</summary>
public enum Relation
{
    /// <summary>Given and equal; texts exactly, character for character.</summary>
    Is,

    /// <summary>Given and different.</summary>
    IsNot,

    /// <summary>Given and among those listed.</summary>
    IsAmong,

    /// <summary>Given and not among those listed.</summary>
    IsNotAmong,

    /// <summary>Greater; of days: later.</summary>
    Over,

    /// <summary>Less; of days: earlier.</summary>
    Under,

    /// <summary>Greater or equal; of days: on or later.</summary>
    AtLeast,

    /// <summary>Less or equal; of days: on or earlier.</summary>
    AtMost,

    /// <summary>A text that has the value somewhere in it; a list that has it among its items.</summary>
    HasInIt,

    /// <summary>Given, and does not contain the value.</summary>
    HasNotInIt,

    /// <summary>Not answered, not asked, or not there.</summary>
    WasNotGiven,

    /// <summary>Answered, or there.</summary>
    WasGiven,
}

/// <summary>Which relations each kind of fact takes.</summary>
public static class Relations
{
    private static readonly ImmutableArray<Relation> Presence = [Relation.WasNotGiven, Relation.WasGiven];
    private static readonly ImmutableArray<Relation> Order =
    [
        Relation.Is,
        Relation.IsNot,
        Relation.Over,
        Relation.Under,
        Relation.AtLeast,
        Relation.AtMost,
        .. Presence,
    ];
    private static readonly ImmutableArray<Relation> Among = [Relation.Is, Relation.IsNot, Relation.IsAmong, Relation.IsNotAmong];

    /// <summary>The relations of a kind, in the order in which they are offered.</summary>
    public static ImmutableArray<Relation> Of(FactKind kind) =>
        kind switch
        {
            FactKind.Text => [.. Among, Relation.HasInIt, Relation.HasNotInIt, .. Presence],
            FactKind.Number or FactKind.Day => Order,
            FactKind.Truth => [Relation.Is, Relation.IsNot, .. Presence],
            FactKind.Choice or FactKind.AnyOf => [.. Among, .. Presence],
            FactKind.List => [Relation.HasInIt, Relation.HasNotInIt, .. Presence],
            _ => Presence,
        };

    /// <summary>Whether a relation compares with a value at all.</summary>
    public static bool TakesValue(Relation relation) => relation is not (Relation.WasNotGiven or Relation.WasGiven);

    /// <summary>Whether a relation compares with a list of values.</summary>
    public static bool TakesList(Relation relation) => relation is Relation.IsAmong or Relation.IsNotAmong;

    /// <summary>Whether a relation can stand between two facts of some kinds, where what it compares with is itself a fact.</summary>
    /// <param name="relation">The relation.</param>
    /// <param name="kind">The kind of the one that is tested.</param>
    /// <param name="other">The kind of the one that it is compared with.</param>
    public static bool StandsBetween(Relation relation, FactKind kind, FactKind other) =>
        TakesValue(relation)
        && Of(kind).Contains(relation)
        && (
            TakesList(relation) ? other == FactKind.List && kind != FactKind.AnyOf
            : kind is FactKind.List or FactKind.AnyOf ? other is FactKind.Text or FactKind.Choice
            : kind == other
        );

    /// <summary>The relation as words between a fact and a value.</summary>
    public static string Words(Relation relation, FactKind kind) =>
        (relation, kind) switch
        {
            (Relation.Is, _) => "is",
            (Relation.IsNot, _) => "is not",
            (Relation.IsAmong, _) => "is among",
            (Relation.IsNotAmong, _) => "is not among",
            (Relation.Over, FactKind.Day) => "is after",
            (Relation.Over, _) => "is over",
            (Relation.Under, FactKind.Day) => "is before",
            (Relation.Under, _) => "is under",
            (Relation.AtLeast, FactKind.Day) => "is on or after",
            (Relation.AtLeast, _) => "is at least",
            (Relation.AtMost, FactKind.Day) => "is on or before",
            (Relation.AtMost, _) => "is at most",
            (Relation.HasInIt, _) => "has in it",
            (Relation.HasNotInIt, _) => "has not in it",
            (Relation.WasNotGiven, _) => "was not given",
            _ => "was given",
        };
}
