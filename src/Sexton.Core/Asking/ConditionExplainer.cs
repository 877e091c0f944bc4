using System.Collections.Immutable;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Register;
using Sexton.Core.Values;

namespace Sexton.Core.Asking;

/// <summary>Whether a condition holds at a place, and what each part of it saw there.</summary>
/// <param name="Holds">Whether it holds.</param>
/// <param name="Saw">What it saw: "it is 3.5 m", "not answered yet"; of a group "".</param>
/// <param name="Parts">The same of its parts, in their order.</param>
public sealed record Explained(bool Holds, string Saw, ImmutableArray<Explained> Parts);

/// <summary>A part of a condition that speaks for its outcome.</summary>
/// <param name="Condition">The part as defined: a test, a count, or a group without parts.</param>
/// <param name="Bound">The same, bound.</param>
/// <param name="Holding">Whether it speaks by holding.</param>
internal readonly record struct Deciding(Condition Condition, BoundCondition Bound, bool Holding);

/// <summary>Explains conditions part by part, and names what keeps one from holding.</summary>
/// <param name="facts">The cart that they are asked of.</param>
/// <param name="words">Names things.</param>
public sealed class ConditionExplainer(CartFacts facts, ConditionWords words)
{
    // So many different things are told of what lines or units had.
    private const int MostSeen = 3;

    /// <summary>Explains a condition.</summary>
    /// <param name="condition">The condition as defined.</param>
    /// <param name="bound">The same, bound.</param>
    /// <param name="place">Where it is asked.</param>
    /// <exception cref="ArgumentException">What is bound is another condition.</exception>
    public Explained Explain(Condition condition, BoundCondition bound, Place place) =>
        (condition, bound) switch
        {
            (ConditionGroup group, BoundGroup parts) => new(
                bound.Holds(facts, place),
                "",
                [.. group.Parts.Zip(parts.Parts, (c, b) => Explain(c, b, place))]
            ),
            (ConditionTest test, BoundTest read) => new(bound.Holds(facts, place), Saw(test, read, place), []),
            (ConditionOver over, BoundOver counted) => new(
                bound.Holds(facts, place),
                Counted(over, counted, place),
                PartsOver(over, counted, place)
            ),
            _ => throw new ArgumentException("The condition was bound from another.", nameof(bound)),
        };

    // What each part of the body saw at all lines or units together.
    private ImmutableArray<Explained> PartsOver(ConditionOver over, BoundOver counted, Place place)
    {
        if (over.Where is not { } body || counted.Where is not { } bound)
        {
            return [];
        }

        var each = new List<Explained>();
        foreach (var at in facts.PlacesOver(over.Of, place))
        {
            each.Add(Explain(body, bound, at));
        }

        return each.Count == 0 ? []
            : body is ConditionGroup ? Together(each).Parts
            : [Together(each)];
    }

    private static Explained Together(List<Explained> each) =>
        new(
            each.All(static e => e.Holds),
            SawAltogether(each.ConvertAll(static e => e.Saw)),
            [
                // A line without units has nothing to say of what is tested of them.
                .. Enumerable
                    .Range(0, each.Max(static e => e.Parts.Length))
                    .Select(i => Together(each.FindAll(e => e.Parts.Length > i).ConvertAll(e => e.Parts[i]))),
            ]
        );

    private static string SawAltogether(List<string> saw)
    {
        var kinds = saw.GroupBy(static s => s, StringComparer.Ordinal).OrderByDescending(static g => g.Count()).ToList();
        if (kinds.Count == 1)
        {
            return saw.Count == 1 || kinds[0].Key.Length == 0 ? kinds[0].Key : "of each " + kinds[0].Key;
        }

        var others = kinds.Skip(MostSeen).Sum(static g => g.Count());
        return string.Join("; ", kinds.Take(MostSeen).Select(static g => $"of {g.Count()} {g.Key}"))
            + (others > 0 ? $"; of {others} something else" : "");
    }

    /// <summary>
    /// Why a condition does not hold, as phrases: "the shopper group is trade", "“Access width” is not answered yet". Why it holds, where
    /// <paramref name="holding"/> says so.
    /// </summary>
    public IEnumerable<string> Reasons(Condition condition, BoundCondition bound, Place place, bool holding = false) =>
        Deciding(facts, condition, bound, place, holding).SelectMany(d => Phrase(d, place)).Distinct(StringComparer.Ordinal);

    /// <summary>The tests, counts and empty groups in a condition that speak for its outcome.</summary>
    internal static IEnumerable<Deciding> Deciding(
        CartFacts facts,
        Condition condition,
        BoundCondition bound,
        Place place,
        bool holding = false
    )
    {
        if (condition is not ConditionGroup { Parts.IsEmpty: false } group || bound is not BoundGroup parts)
        {
            return [new Deciding(condition, bound, holding)];
        }

        // What speaks for the outcome of a group are the parts that turned out so; of "none" those that turned out otherwise.
        var wanted = group.Kind == GroupKind.None ? !holding : holding;
        return group
            .Parts.Zip(parts.Parts)
            .Where(p => p.Second.Holds(facts, place) == wanted)
            .SelectMany(p => Deciding(facts, p.First, p.Second, place, wanted));
    }

    private IEnumerable<string> Phrase(Deciding part, Place place) =>
        (part.Condition, part.Bound) switch
        {
            _ when part.Holding || part.Condition is ConditionGroup => [words.Sentence(part.Condition)],
            (ConditionTest test, BoundTest read) =>
            [
                string.Join(" and ", FactsOf(test, read).Select(f => $"{words.NameOf(f.Key)} is {Uncovered(f.Key, f.Fact, place)}")),
            ],
            (ConditionOver over, BoundOver counted) =>
            [
                $"{Counted(over, counted, place)}{(over.Where is null ? "" : $" of which {words.Sentence(over.Where)}")}",
            ],
            _ => [],
        };

    private static IEnumerable<(string Key, BoundFact Fact)> FactsOf(ConditionTest test, BoundTest bound) =>
        bound is PairTest pair ? [(test.Fact, pair.Fact), (test.Other!, pair.Other)] : [(test.Fact, bound.Fact)];

    private string Saw(ConditionTest test, BoundTest bound, Place place)
    {
        var seen = Seen(test.Fact, bound.Fact, place);
        var own = bound.Fact.IsGiven(facts, place) ? "it is " + seen : seen;
        return bound is PairTest pair ? $"{own}, and {words.NameOf(test.Other!)} is {Seen(test.Other!, pair.Other, place)}" : own;
    }

    // Reasons are kept with the order, where what is sensitive is never read from anything but its own place.
    private string Uncovered(string key, BoundFact fact, Place place) =>
        fact is AnswerFact { Field: PlannedField { Field.Sensitive: true } } && fact.IsGiven(facts, place)
            ? "answered, and covered"
            : Seen(key, fact, place);

    private string Seen(string of, BoundFact fact, Place place)
    {
        if (fact.IsGiven(facts, place))
        {
            var value =
                fact.Number(facts, place) is { } number ? AnswerValue.Of(number)
                : fact.Truth(facts, place) is { } truth ? AnswerValue.Of(truth)
                : fact.List(facts, place) is { } list ? AnswerValue.Of(list)
                : fact.Text(facts, place) is { } text ? AnswerValue.Of(text)
                : null;
            return value is null ? "answered"
                : value.Picks is null ? words.ValueOf(of, value)
                : words.ValueOf(of, value).Replace(" or ", ", ", StringComparison.Ordinal);
        }

        return ShopFacts.FieldOf(of) is not { } key ? "not there"
            : facts.Plan.Find(key) is { } field && facts.IsAsked(field, place) ? "not answered yet"
            : "not asked";
    }

    private string Counted(ConditionOver over, BoundOver bound, Place place)
    {
        var (count, holding) = bound.Count(facts, place);
        return $"{holding} of {count} {over.Of.Word(count)}";
    }
}
