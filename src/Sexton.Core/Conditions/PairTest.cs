using Sexton.Core.Facts;

namespace Sexton.Core.Conditions;

/// <summary>A bound test of one fact against another: false where either is not there, or where one turns out to be of another kind.</summary>
/// <param name="fact">The one that is tested.</param>
/// <param name="relation">How.</param>
/// <param name="other">The one that it is compared with.</param>
internal sealed class PairTest(BoundFact fact, Relation relation, BoundFact other) : BoundTest(fact, relation)
{
    /// <summary>The one that it is compared with.</summary>
    public BoundFact Other => other;

    public override bool Holds(IFacts facts, Place place)
    {
        if (Fact.List(facts, place) is { IsEmpty: false } list)
        {
            return other.Text(facts, place) is { } item && list.Contains(item) == (Relation is Relation.HasInIt or Relation.Is);
        }

        if (Fact.Text(facts, place) is { } text)
        {
            return Relations.TakesList(Relation)
                ? other.List(facts, place) is { IsEmpty: false } items && items.Contains(text) == (Relation == Relation.IsAmong)
                : other.Text(facts, place) is { } otherText && TextTest.Holds(text, Relation, otherText);
        }

        return (Fact.Number(facts, place) is { } number && other.Number(facts, place) is { } otherNumber)
            ? Compare.Holds(number.CompareTo(otherNumber), Relation)
            : Fact.Truth(facts, place) is { } truth
                && other.Truth(facts, place) is { } otherTruth
                && truth == otherTruth == (Relation == Relation.Is);
    }
}
