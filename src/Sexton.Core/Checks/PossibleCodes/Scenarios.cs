using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Catalogue;
using Sexton.Core.Codes;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Values;

namespace Sexton.Core.Checks.PossibleCodes;

/// <summary>
/// In which ways the answers that stand in a code can hang together: the fields on whose answer others depend are supposed to be answered in each way in turn, and
/// what shares a condition that cannot be decided here is supposed to be asked, and then not to be. So the same code for an answer asked of oak and one asked of ash
/// is not taken for a clash where the code says which wood it is.
/// </summary>
/// <param name="plan">The register.</param>
/// <param name="products">What is sold.</param>
internal sealed class Scenarios(RegisterPlan plan, ProductIndex products)
{
    // Beyond, any condition is taken to hold or not.
    private const int Most = 256;

    private readonly Dictionary<Condition, string> _texts = [];

    /// <summary>One scenario in which any condition can hold or not.</summary>
    public static ImmutableArray<ImmutableArray<PossibleAnswers>> Roughly(Goods goods, ImmutableArray<CodePart> parts) =>
        [
            [.. parts.Select(static p => PossibleAnswers.Of(FieldOf(p)))],
        ];

    /// <summary>The scenarios for goods. No two of them share an order.</summary>
    /// <param name="goods">The goods.</param>
    /// <param name="parts">The parts of fields.</param>
    public ImmutableArray<ImmutableArray<PossibleAnswers>> Of(Goods goods, ImmutableArray<CodePart> parts)
    {
        var read = parts
            .SelectMany(p => Conditions(FieldOf(p)))
            .SelectMany(static c => c.Walk())
            .OfType<ConditionTest>()
            .SelectMany(static t => t.Facts.Select(ShopFacts.FieldOf))
            .ToHashSet(StringComparer.Ordinal);
        var deciding = parts
            .Where(p =>
                read.Contains(p.Field!.Key)
                && (p.Field.FactKind == FactKind.Truth || (p.Field.FactKind == FactKind.Choice && !p.Choices.IsEmpty))
            )
            .Select(FieldOf)
            .ToImmutableArray();
        if (deciding.Aggregate(1L, static (ways, f) => ways * (f.Rule.Choices.Length + 2)) > Most)
        {
            return Roughly(goods, parts);
        }

        IEnumerable<ImmutableArray<SupposedAnswer>> ways =
        [
            [],
        ];
        foreach (var field in deciding)
        {
            ways = ways.SelectMany(way => AnswersOf(field).Select(way.Add)).ToList();
        }

        var fields = parts.Select(FieldOf).ToImmutableArray();
        var scenarios = ways.SelectMany(way => Under(new Scenario(plan, products, goods, way), fields)).Take(Most + 1).ToImmutableArray();
        return scenarios.Length > Most ? Roughly(goods, parts) : scenarios;
    }

    private static PlannedField FieldOf(CodePart part) => (PlannedField)part.Field!;

    private static IEnumerable<Condition> Conditions(PlannedField field) =>
        field.Rule.Choices.Select(static c => c.When).Append(field.Field.When).Append(field.Within?.Field.When).OfType<Condition>();

    // A "no" contributes as little as no answer, so that the two are one way.
    private static IEnumerable<SupposedAnswer> AnswersOf(PlannedField field) =>
        field.Rule.Fact == FactKind.Truth
            ? [new(field, [AnswerValue.Yes]), new(field, [AnswerValue.No, null])]
            : field.Rule.Choices.Select(c => new SupposedAnswer(field, [AnswerValue.Of(c.Key)])).Append(new(field, [null]));

    private IEnumerable<ImmutableArray<PossibleAnswers>> Under(Scenario scenario, ImmutableArray<PlannedField> fields)
    {
        var asked = fields.Select(f => AskedIn(scenario, f)).ToImmutableArray();
        var shared = asked
            .Where(static a => a.Asked is null)
            .GroupBy(static a => a.Gate, StringComparer.Ordinal)
            .Where(gate => gate.Count() > 1 && gate.Any(static a => PossibleAnswers.IsThereWhenAsked(a.Field)))
            .Select(static g => g.Key)
            .ToImmutableArray();
        if (shared.Length > 8)
        {
            shared = [];
        }

        for (var open = 0; open < 1 << shared.Length; open++)
        {
            var latitudes = asked
                .Select(a =>
                    LatitudeOf(scenario, a.Field, a.Asked ?? (shared.IndexOf(a.Gate) is >= 0 and var at ? (open >> at & 1) == 1 : null))
                )
                .ToImmutableArray();
            if (latitudes.All(static l => l.Empty || l.Answered))
            {
                yield return latitudes;
            }
        }
    }

    // Whether it is asked, as far as that is known; and where it is not, what it hangs on.
    private (PlannedField Field, bool? Asked, string Gate) AskedIn(Scenario scenario, PlannedField field)
    {
        var gate = "";
        var asked = true;
        foreach (var (holds, on) in Gates(scenario, field))
        {
            (asked, gate) = (asked && holds != false, holds is null ? gate + on + '\n' : gate);
        }

        return (
            field,
            !asked ? false
            : gate.Length == 0 ? true
            : null,
            gate
        );
    }

    private IEnumerable<(bool? Holds, string On)> Gates(Scenario scenario, PlannedField field)
    {
        if (field.Within is { } section)
        {
            var when = scenario.Holds(section.When);
            yield return (
                when == false ? false
                : when is null || section.Asks || !section.Field.AskedOf.Groups.IsEmpty ? null
                : true,
                section.Field.Key
            );
        }

        yield return (field.Field.AskedOf.Groups.IsEmpty ? true : null, string.Join(' ', field.Field.AskedOf.Groups));
        yield return (scenario.Holds(field.When), TextOf(field.Field.When));
    }

    private string TextOf(Condition? condition)
    {
        if (condition is null)
        {
            return "";
        }

        return _texts.TryGetValue(condition, out var text)
            ? text
            : _texts[condition] = JsonSerializer.Serialize(condition, DocumentJson.Options);
    }

    // Neither empty nor answered where the scenario contradicts itself.
    private static PossibleAnswers LatitudeOf(Scenario scenario, PlannedField field, bool? asked)
    {
        var offered = field.Rule.Choices.Select((c, i) => scenario.Holds(field.ChoiceWhen[i]) != false).ToArray();
        var (empty, answered) = (asked != true || !PossibleAnswers.IsThereWhenAsked(field), asked != false);
        if (scenario.Answer(field) is { } supposed)
        {
            var value = supposed.Values[0];
            (empty, answered) = (empty && supposed.Values.Contains(null), answered && !supposed.Values.Contains(null));
            for (var i = 0; i < offered.Length; i++)
            {
                offered[i] &= field.Rule.Choices[i].Key == value?.Text;
            }

            answered &= offered.Length == 0 || offered.Contains(true);
        }

        return new PossibleAnswers(empty, answered, string.Concat(offered.Select(static o => o ? '1' : '0')));
    }
}
