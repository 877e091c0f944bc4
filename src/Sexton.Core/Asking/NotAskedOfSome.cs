using System.Collections.Immutable;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Asking;

/// <summary>A field that is asked of some of a line and not of others, and why not, for the shopper.</summary>
/// <param name="Field">The field.</param>
/// <param name="LineId">The id of the line.</param>
/// <param name="Why">Why, in the shopper's language: "Not asked, as “Pace” is Steady."</param>
/// <param name="UnitIds">The ids of those of which it is not asked for that reason.</param>
public sealed record NotAskedOfSomeField(PlannedField Field, string LineId, string Why, ImmutableArray<string> UnitIds);

/// <summary>
/// Says to the shopper why something is asked of some of a line and not of others. It names only what the shopper answered: what staff know of shopper and
/// product is not told here.
/// </summary>
/// <param name="facts">The cart, asked.</param>
public sealed class NotAskedOfSome(CartFacts facts)
{
    /// <summary>What is asked of some of a line and not of others, field by field as displayed.</summary>
    /// <param name="line">Which line, from 0.</param>
    public IEnumerable<NotAskedOfSomeField> Of(int line)
    {
        var places = Enumerable.Range(0, facts.UnitsOf(line)).Select(unit => new Place(line, unit)).ToList();
        foreach (var field in facts.Plan.UnitFields.Where(f => f.Asks && !f.Rule.IsKeptOffTheForm))
        {
            var without = places.Where(place => !facts.IsAsked(field, place)).ToList();
            if (without.Count == 0 || without.Count == places.Count)
            {
                continue;
            }

            foreach (var alike in without.GroupBy(place => Why(field, place), StringComparer.Ordinal))
            {
                yield return new NotAskedOfSomeField(
                    field,
                    facts.LineAt(line).Id,
                    alike.Key,
                    [.. alike.Select(place => facts.UnitIdAt(place)!)]
                );
            }
        }
    }

    private string Why(PlannedField field, Place place)
    {
        if (field.Within is { } section)
        {
            if (!facts.IsAsked(section, place))
            {
                return Why(section, place);
            }

            if (section.Asks && facts.ValueOf(section, place)?.Truth != true)
            {
                return Since(section, place);
            }
        }

        return
            field.Field.When is { } when
            && field.When is { } bound
            && ConditionExplainer
                .Deciding(facts, when, bound, place)
                .Select(static d => ((d.Bound as BoundTest)?.Fact as AnswerFact)?.Field)
                .OfType<PlannedField>()
                .FirstOrDefault()
                is { } decides
            ? Since(decides, place)
            : Say(ShopperMessages.NotAskedOfThis, LanguageMap.Empty);
    }

    private string Since(PlannedField decides, Place place) =>
        facts.ValueOf(decides, place) is { } value
            ? Say(ShopperMessages.NotAskedSince, decides.Label, decides.Rule.TextOf(value, facts.Language))
            : Say(ShopperMessages.NotAskedUntil, decides.Label);

    private string Say(string key, LanguageMap label, string? text = null) =>
        ShopperMessages.For(new Refusal(key, text), label, facts.Plan.Wording, facts.Language);
}
