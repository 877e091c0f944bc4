using System.Collections.Frozen;
using System.Collections.Immutable;
using Sexton.Core.Facts;

namespace Sexton.Core.Conditions;

/// <summary>A condition bound to the facts and answers of a plan: an immutable tree that allocates nothing when it is asked.</summary>
public abstract class BoundCondition
{
    /// <summary>Whether it holds.</summary>
    public abstract bool Holds(IFacts facts, Place place);
}

internal sealed class BoundGroup(GroupKind kind, ImmutableArray<BoundCondition> parts) : BoundCondition
{
    public ImmutableArray<BoundCondition> Parts => parts;

    /// <summary>What the group comes to where of some parts it is not known whether they hold (Kleene's logic of three values).</summary>
    /// <param name="holds">Whether each part holds, null for not known.</param>
    public bool? Joined(IEnumerable<bool?> holds)
    {
        var known = holds.ToList();
        bool? stopped =
            known.Contains(kind != GroupKind.All) ? true
            : known.Contains(null) ? null
            : false;
        return kind == GroupKind.Any ? stopped : !stopped;
    }

    public override bool Holds(IFacts facts, Place place)
    {
        // All stops at the first part that does not hold, Any and None at the first that does.
        var stopsAt = kind != GroupKind.All;
        foreach (var part in parts)
        {
            if (part.Holds(facts, place) == stopsAt)
            {
                return kind == GroupKind.Any;
            }
        }

        return kind != GroupKind.Any;
    }
}

internal sealed class BoundOver(ConditionOver over, BoundCondition? where) : BoundCondition
{
    public BoundCondition? Where => where;

    public override bool Holds(IFacts facts, Place place)
    {
        var (count, holding) = Count(facts, place);
        return over.Quantifier switch
        {
            Quantifier.Any => holding > 0,
            Quantifier.Every => count > 0 && holding == count,
            Quantifier.None => holding == 0,
            _ => Compare.Holds(holding.CompareTo(over.Count!.Value), over.Relation!.Value),
        };
    }

    /// <summary>Over how many it was asked, and of how many it held.</summary>
    public (int Count, int Holding) Count(IFacts facts, Place place)
    {
        var (count, holding) = (0, 0);
        foreach (var at in facts.PlacesOver(over.Of, place))
        {
            count++;
            holding += where is null || where.Holds(facts, at) ? 1 : 0;
        }

        return (count, holding);
    }
}

/// <summary>A bound test of one fact.</summary>
internal abstract class BoundTest(BoundFact fact, Relation relation) : BoundCondition
{
    public BoundFact Fact => fact;

    protected Relation Relation => relation;
}

internal sealed class PresenceTest(BoundFact fact, Relation relation) : BoundTest(fact, relation)
{
    public override bool Holds(IFacts facts, Place place) => Fact.IsGiven(facts, place) == (Relation == Relation.WasGiven);
}

internal sealed class NumberTest(BoundFact fact, Relation relation, decimal value) : BoundTest(fact, relation)
{
    public override bool Holds(IFacts facts, Place place) =>
        Fact.Number(facts, place) is { } number && Compare.Holds(number.CompareTo(value), Relation);
}

internal sealed class TruthTest(BoundFact fact, Relation relation, bool value) : BoundTest(fact, relation)
{
    public override bool Holds(IFacts facts, Place place) =>
        Fact.Truth(facts, place) is { } truth && truth == value == (Relation == Relation.Is);
}

/// <summary>A text, a key, or a day: days as ISO 8601 stand in the order of their texts.</summary>
internal sealed class TextTest(BoundFact fact, Relation relation, string value) : BoundTest(fact, relation)
{
    public override bool Holds(IFacts facts, Place place) => Fact.Text(facts, place) is { } text && Holds(text, Relation, value);

    /// <summary>Whether a relation holds between two texts.</summary>
    public static bool Holds(string text, Relation relation, string value) =>
        relation switch
        {
            Relation.HasInIt => text.Contains(value, StringComparison.Ordinal),
            Relation.HasNotInIt => !text.Contains(value, StringComparison.Ordinal),
            _ => Compare.Holds(string.CompareOrdinal(text, value), relation),
        };
}

internal sealed class AmongTest(BoundFact fact, Relation relation, ImmutableArray<string> values) : BoundTest(fact, relation)
{
    private readonly FrozenSet<string> _values = values.ToFrozenSet(StringComparer.Ordinal);

    public override bool Holds(IFacts facts, Place place) =>
        Fact.Text(facts, place) is { } text && _values.Contains(text) == (Relation == Relation.IsAmong);
}

/// <summary>Whether any of several keys is among those listed.</summary>
internal sealed class AnyOfTest(BoundFact fact, Relation relation, ImmutableArray<string> values) : BoundTest(fact, relation)
{
    public override bool Holds(IFacts facts, Place place)
    {
        if (Fact.List(facts, place) is not { IsEmpty: false } own)
        {
            return false;
        }

        foreach (var key in own)
        {
            if (values.Contains(key, StringComparer.Ordinal))
            {
                return Relation is Relation.Is or Relation.IsAmong;
            }
        }

        return Relation is Relation.IsNot or Relation.IsNotAmong;
    }
}

internal sealed class ListTest(BoundFact fact, Relation relation, string value) : BoundTest(fact, relation)
{
    public override bool Holds(IFacts facts, Place place)
    {
        if (Fact.List(facts, place) is not { IsEmpty: false } list)
        {
            return false;
        }

        foreach (var item in list)
        {
            if (string.Equals(item, value, StringComparison.Ordinal))
            {
                return Relation == Relation.HasInIt;
            }
        }

        return Relation == Relation.HasNotInIt;
    }
}

internal static class Compare
{
    public static bool Holds(int order, Relation relation) =>
        relation switch
        {
            Relation.Is => order == 0,
            Relation.IsNot => order != 0,
            Relation.Over => order > 0,
            Relation.Under => order < 0,
            Relation.AtLeast => order >= 0,
            Relation.AtMost => order <= 0,
            _ => false,
        };
}
