using System.Collections.Immutable;
using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Catalogue;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Values;

namespace Sexton.Core.Checks.PossibleCodes;

/// <summary>What is supposed of the answer to a field: to be one of some values, which contribute the same.</summary>
/// <param name="Field">The field.</param>
/// <param name="Values">The values; null for none.</param>
internal sealed record SupposedAnswer(PlannedField Field, ImmutableArray<AnswerValue?> Values);

/// <summary>A line of goods with supposed answers, in each way in which they can be given; and what of a condition is known by them.</summary>
internal sealed class Scenario
{
    private readonly ImmutableArray<SupposedAnswer> _supposed;
    private readonly ImmutableArray<CartFacts> _facts;

    /// <summary>Makes them.</summary>
    public Scenario(RegisterPlan plan, ProductIndex products, Goods goods, ImmutableArray<SupposedAnswer> supposed)
    {
        _supposed = supposed;
        IEnumerable<ImmutableArray<KeyValuePair<string, AnswerValue>>> ways =
        [
            [],
        ];
        foreach (var one in supposed)
        {
            ways = ways.SelectMany(way => one.Values.Select(v => v is null ? way : way.Add(KeyValuePair.Create(one.Field.Key, v))))
                .ToList();
        }

        // On any day: what hangs on it is not known here.
        _facts =
        [
            .. ways.Select(way =>
                CartFacts.AsGiven(
                    plan,
                    products,
                    new CartContent
                    {
                        Lines = [new CartLine("", goods.Product.Code, 1, AnswerSet.Of(way)) { VariantCode = goods.Variant?.Code }],
                    },
                    DateOnly.MinValue
                )
            ),
        ];
    }

    /// <summary>What is supposed of a field, or null.</summary>
    public SupposedAnswer? Answer(AnswerSource field) => _supposed.FirstOrDefault(s => s.Field == field);

    /// <summary>Whether a condition holds, as far as that can be known; true for none.</summary>
    public bool? Holds(BoundCondition? condition)
    {
        if (condition is null)
        {
            return true;
        }

        var holds = _facts.Select(e => Holds(e, condition)).Distinct().ToList();
        return holds is [var one] ? one : null;
    }

    private bool? Holds(CartFacts facts, BoundCondition condition) =>
        condition switch
        {
            BoundGroup group => group.Joined(group.Parts.Select(p => Holds(facts, p))),
            PairTest pair when !IsKnown(pair.Other) => null,
            BoundTest test when IsKnown(test.Fact) => test.Holds(facts, Place.OfLine(0)),
            _ => null,
        };

    private bool IsKnown(BoundFact fact) => fact.IsOfGoods || (fact is AnswerFact answer && Answer(answer.Field) is not null);
}
