using System.Collections.Immutable;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Register;
using Sexton.Core.Values;

namespace Sexton.Core.Asking;

/// <summary>Whether a condition holds at a place, and what each part of it saw there.</summary>
/// <param name="Holds">Whether it holds.</param>
/// <param name="Saw">What it saw: "it is 3.5 m", "not answered yet"; of a group "".</param>
/// <param name="Parts">The same of its parts, in their order.</param>
public sealed record Explained(bool Holds, string Saw, ImmutableArray<Explained> Parts);

/// <summary>Explains conditions part by part, and names what keeps one from holding.</summary>
/// <param name="facts">The cart that they are asked of.</param>
/// <param name="words">Names things.</param>
public sealed class ConditionExplainer(CartFacts facts, ConditionWords words)
{
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
            (ConditionTest test, BoundTest read) => new(bound.Holds(facts, place), Saw(test, read.Fact, place), []),
            (ConditionOver over, BoundOver counted) => new(bound.Holds(facts, place), Counted(over, counted, place), []),
            _ => throw new ArgumentException("The condition was bound from another.", nameof(bound)),
        };

    /// <summary>
    /// Why a condition does not hold, as phrases: "the shopper group is trade", "“Access width” is not answered yet". Why it holds, where
    /// <paramref name="holding"/> says so.
    /// </summary>
    public IEnumerable<string> Reasons(Condition condition, BoundCondition bound, Place place, bool holding = false)
    {
        if (condition is ConditionGroup { Parts.IsEmpty: false } group && bound is BoundGroup parts)
        {
            // What speaks for the outcome of a group are the parts that turned out so; of "none" those that turned out otherwise.
            var wanted = group.Kind == GroupKind.None ? !holding : holding;
            return group
                .Parts.Zip(parts.Parts)
                .Where(p => p.Second.Holds(facts, place) == wanted)
                .SelectMany(p => Reasons(p.First, p.Second, place, wanted))
                .Distinct(StringComparer.Ordinal);
        }

        return condition switch
        {
            _ when holding || condition is ConditionGroup => [words.Sentence(condition)],
            ConditionTest test when bound is BoundTest read => [$"{words.NameOf(test.Fact)} is {Seen(test, read.Fact, place)}"],
            ConditionOver over when bound is BoundOver counted =>
            [
                $"{Counted(over, counted, place)}{(over.Where is null ? "" : $" of which {words.Sentence(over.Where)}")}",
            ],
            _ => [],
        };
    }

    private string Saw(ConditionTest test, BoundFact fact, Place place)
    {
        var seen = Seen(test, fact, place);
        return fact.IsGiven(facts, place) ? "it is " + seen : seen;
    }

    private string Seen(ConditionTest test, BoundFact fact, Place place)
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
                : value.Picks is null ? words.ValueOf(test.Fact, value)
                : words.ValueOf(test.Fact, value).Replace(" or ", ", ", StringComparison.Ordinal);
        }

        return ShopFacts.FieldOf(test.Fact) is not { } key ? "not there"
            : facts.Plan.Find(key) is { } field && facts.IsAsked(field, place) ? "not answered yet"
            : "not asked";
    }

    private string Counted(ConditionOver over, BoundOver bound, Place place)
    {
        var (count, holding) = bound.Count(facts, place);
        return $"{holding} of {count} {over.Of.Word(count)}";
    }
}
