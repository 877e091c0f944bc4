using System.Collections.Immutable;
using Sexton.Core.Components;
using Sexton.Core.Facts;
using Sexton.Core.Pricing;
using Sexton.Core.Types;

namespace Sexton.Core.Codes;

/// <summary>What is wrong with what a field contributes to item codes and with what it uses up.</summary>
internal static class CodeProblems
{
    private const int MostUses = 100;
    private const int MostOfAUse = 100_000;
    private const int MostGrams = 10_000_000;

    public static IEnumerable<(string Setting, string Sentence)> Of(
        RuledField field,
        FieldCode? contribution,
        ImmutableArray<ComponentUsage> uses
    )
    {
        if (contribution is { } code)
        {
            if (!ItemCoder.CanContribute(field, code))
            {
                yield return (
                    "code",
                    field.Level == Level.Line
                        ? $"{field.Type.Name} can be anything, and would stand in the code. Say what an answer contributes."
                        : "Only what is answered once per line can be part of its item code."
                );
            }

            if (new[] { code.Part, code.Rule.Separator ?? "", code.Rule.WhenEmpty ?? "" }.Any(static p => p.Length > CodeRule.LongestPart))
            {
                yield return ("code", $"A part of a code has at most {CodeRule.LongestPart} characters.");
            }
        }

        if (field.Rule.Choices.Any(static c => c.Code.Length > CodeRule.LongestPart || c.WeightGrams is < 0 or > MostGrams))
        {
            yield return (
                "settings.choices",
                $"The code of a choice has at most {CodeRule.LongestPart} characters, and it weighs from 0 to {MostGrams / 1000} kg."
            );
        }

        if (uses.Length > MostUses)
        {
            yield return ("uses", $"It uses up {uses.Length} components, and can use {MostUses}.");
        }

        foreach (var use in uses)
        {
            if (field.Type.AsksNothing)
            {
                yield return ("uses", "It asks nothing, and so it uses nothing up.");
            }

            if (use.Quantity is < 1 or > MostOfAUse)
            {
                yield return ("uses", $"It uses from 1 to {MostOfAUse} of a component.");
            }

            if (use.Choice is { } choice && !field.Rule.Choices.Any(c => c.Key == choice))
            {
                yield return (
                    "uses",
                    $"There is no choice “{choice}” that could use something up. Take the component out, or put the choice back."
                );
            }
            else if (
                use.By is not (AnswerMeasure.Answer or AnswerMeasure.Count)
                || !(use.Choice is null ? field.Rule.PricedBy : PriceRules.ByOfChoice(field.Rule)).Contains(use.By)
            )
            {
                yield return ("uses", "How many it uses is counted by the answer as a whole, or by the number that is answered.");
            }

            if (field.Level == Level.Order && use.Per != UsagePer.Order)
            {
                yield return ("uses", "It is asked once per order, and so it uses up once per order.");
            }
        }
    }
}
