using Sexton.Core.Conditions;
using Sexton.Core.Register;

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
/// <param name="evaluation">The evaluation.</param>
/// <param name="words">Names things.</param>
public sealed class WhyNot(Evaluation evaluation, ConditionWords words)
{
    private readonly Explainer _explainer = new(evaluation, words);

    /// <summary>Everything that is not asked, place by place, as it would stand in the form.</summary>
    public IEnumerable<NotAskedField> All()
    {
        for (var line = 0; line < evaluation.LineCount; line++)
        {
            if (!evaluation.IsSold(line))
            {
                continue;
            }

            var content = evaluation.LineAt(line);
            foreach (
                var found in evaluation.Plan.LineFields.Select(f => At(f, new Place(line, -1), content.Id, null)).OfType<NotAskedField>()
            )
            {
                yield return found;
            }

            for (var unit = 0; unit < evaluation.UnitsOf(line); unit++)
            {
                foreach (
                    var found in evaluation
                        .Plan.UnitFields.Select(f => At(f, new Place(line, unit), content.Id, content.Units[unit].Id))
                        .OfType<NotAskedField>()
                )
                {
                    yield return found;
                }
            }
        }

        foreach (var found in evaluation.Plan.OrderFields.Select(f => At(f, Place.Order, null, null)).OfType<NotAskedField>())
        {
            yield return found;
        }
    }

    private NotAskedField? At(PlannedField field, Place place, string? lineId, string? unitId)
    {
        if (!field.Asks || evaluation.IsAsked(field, place))
        {
            return null;
        }

        var (why, byCondition) = Why(field, place);
        return new NotAskedField(field, lineId, unitId, why, byCondition, evaluation.EnteredAt(field, place) is { IsBlank: false });
    }

    private (string Why, bool ByCondition) Why(PlannedField field, Place place)
    {
        if (field.Within is { } section)
        {
            if (!evaluation.IsAsked(section, place))
            {
                return Why(section, place);
            }

            if (section.Asks && evaluation.ValueOf(section, place)?.Truth != true)
            {
                var opening = $"“{section.Field.Label}”";
                return (
                    evaluation.ValueOf(section, place) is null ? $"{opening} is not answered yet" : $"{opening} is answered with no",
                    true
                );
            }
        }

        var scope = field.Field.AskedOf;
        if (!scope.IncludesGroup(evaluation.Group))
        {
            return ($"the shopper group is {words.ValueOf(Facts.Group, AnswerValue.Of(evaluation.Group))}", true);
        }

        if (place.Line >= 0 ? !scope.Includes(evaluation.Goods(place.Line).Product) : !scope.All && !AnyLineIn(scope))
        {
            return (place.Line >= 0 ? "this product does not ask it" : "no product in the cart asks it", false);
        }

        return field.When is null || field.Field.When is null
            ? ("", false)
            : (string.Join(", and ", _explainer.Reasons(field.Field.When, field.When, place)), true);
    }

    private bool AnyLineIn(ProductScope scope) =>
        Enumerable.Range(0, evaluation.LineCount).Any(i => evaluation.IsSold(i) && scope.Includes(evaluation.Goods(i).Product));
}
