using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Register;
using Sexton.Core.Values;

namespace Sexton.Core.Asking;

/// <summary>A field that is not asked at a place, and why.</summary>
/// <param name="Field">The field.</param>
/// <param name="LineId">The id of the line, or null for the order.</param>
/// <param name="UnitId">The id of the unit, or null.</param>
/// <param name="Why">Why, in words: "the shopper group is trade".</param>
/// <param name="ByCondition">True when a condition, a group or an opening question kept it from being asked; false when the product does.</param>
/// <param name="Answered">Whether the cart has an answer to it, kept in case it is asked again.</param>
public sealed record NotAskedField(PlannedField Field, string? LineId, string? UnitId, string Why, bool ByCondition, bool Answered);

/// <summary>Says of what is not asked why it is not.</summary>
/// <param name="facts">The cart, asked.</param>
/// <param name="words">Names things.</param>
public sealed class NotAskedReasons(CartFacts facts, ConditionWords words)
{
    private readonly ConditionExplainer _explainer = new(facts, words);

    /// <summary>Everything that is not asked, place by place, as it would stand in the form.</summary>
    public IEnumerable<NotAskedField> All() =>
        facts.Places().SelectMany(place => facts.Plan.FieldsOf(place.Level).Select(field => At(field, place)).OfType<NotAskedField>());

    private NotAskedField? At(PlannedField field, Place place)
    {
        if (!field.Asks || facts.IsAsked(field, place))
        {
            return null;
        }

        var (why, byCondition) = Why(field, place);
        return new NotAskedField(
            field,
            facts.LineIdAt(place),
            facts.UnitIdAt(place),
            why,
            byCondition,
            facts.EnteredAt(field, place) is { IsBlank: false }
        );
    }

    private (string Why, bool ByCondition) Why(PlannedField field, Place place)
    {
        if (field.Within is { } section)
        {
            if (!facts.IsAsked(section, place))
            {
                return Why(section, place);
            }

            if (section.Asks && facts.ValueOf(section, place)?.Truth != true)
            {
                var opening = $"“{section.Field.Label}”";
                return (facts.ValueOf(section, place) is null ? $"{opening} is not answered yet" : $"{opening} is answered with no", true);
            }
        }

        var scope = field.Field.AskedOf;
        if (!scope.IncludesGroup(facts.Group))
        {
            return ($"the shopper group is {words.ValueOf(ShopFacts.Group, AnswerValue.Of(facts.Group))}", true);
        }

        if (place.Line >= 0 ? !scope.Includes(facts.Goods(place.Line).Product) : !scope.All && !AnyLineIn(scope))
        {
            return (place.Line >= 0 ? "this product does not ask it" : "no product in the cart asks it", false);
        }

        return field.When is null || field.Field.When is null
            ? ("", false)
            : (string.Join(", and ", _explainer.Reasons(field.Field.When, field.When, place)), true);
    }

    private bool AnyLineIn(ProductScope scope) =>
        Enumerable.Range(0, facts.LineCount).Any(i => facts.IsSold(i) && scope.Includes(facts.Goods(i).Product));
}
