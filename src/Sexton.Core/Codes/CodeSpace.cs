using Sexton.Core.Catalogue;
using Sexton.Core.Register;

namespace Sexton.Core.Codes;

/// <summary>A code that can come up, and of what.</summary>
/// <param name="Code">The code.</param>
/// <param name="Goods">The goods.</param>
/// <param name="Answers">The answers that make it, by field; a field without an answer is left out.</param>
public sealed record PossibleCode(string Code, Goods Goods, IReadOnlyList<KeyValuePair<PlannedField, AnswerValue>> Answers)
{
    /// <summary>What it is of, in words: "Zinc label with “Typeface: Roman”".</summary>
    public override string ToString()
    {
        var answers = Answers.Select(static a => $"“{a.Key.Field.NameForStaff}: {a.Key.Rule.TextOf(a.Value, LanguageMap.Fallback).Replace('\n', ',')}”").ToList();
        return $"“{Goods.NameIn(LanguageMap.Fallback)}”" + (answers.Count == 0 ? "" : " with " + string.Join(" and ", answers));
    }
}

/// <summary>Lists the item codes that can come up, for finding two things that would share one.</summary>
public static class CodeSpace
{
    /// <summary>How many codes of one product are listed at most; what is beyond is not compared.</summary>
    public const int MostOfAProduct = 4000;

    /// <summary>How many codes are listed at most in all: every look at the draft compares them.</summary>
    public const int MostOfAll = 100_000;

    /// <summary>The codes of everything that is sold, product by product.</summary>
    public static IEnumerable<PossibleCode> All(RegisterPlan plan, ProductIndex products) =>
        products.All.OrderBy(static p => p.Code, StringComparer.Ordinal).SelectMany(product =>
        {
            var asking = plan.CodeFields.Where(f => f.IsAskedOf(product)).ToList();
            return product.Variants.Select(v => new Goods(product, v)).DefaultIfEmpty(new Goods(product, null)).SelectMany(goods => Of(plan, goods, asking));
        }).Take(MostOfAll);

    private static IEnumerable<PossibleCode> Of(RegisterPlan plan, Goods goods, List<PlannedField> asking)
    {
        IEnumerable<List<KeyValuePair<PlannedField, AnswerValue>>> combined = [[]];
        foreach (var field in asking)
        {
            var answers = AnswersOf(field);
            combined = combined.SelectMany(before => answers.Select(a => a is null ? before : [.. before, KeyValuePair.Create(field, a)]));
        }

        return combined.Take(MostOfAProduct).Select(answers =>
            new PossibleCode(plan.Coder.CodeOf(goods, answers), goods, answers));
    }

    // Every choice by itself and no answer at all; of numbers and days those that reach their limits.
    private static List<AnswerValue?> AnswersOf(PlannedField field)
    {
        var answers = field.Rule.Choices.IsEmpty
            ? field.Field.Code!.Part.Length > 0 ? field.Rule.Samples.Where(static s => s.Truth != false).Take(1) : field.Rule.Samples
            : field.Rule.Choices.Select(c => Picking(field, c));
        var required = field.Field.Required && field.Field.When is null && field.Within is null;
        return [.. required ? [] : new AnswerValue?[] { null }, .. answers];
    }

    private static AnswerValue Picking(PlannedField field, Choice choice) => field.Rule.Fact switch
    {
        Conditions.FactKind.List => AnswerValue.Of([choice.Key]),
        Conditions.FactKind.Number => AnswerValue.Of([KeyValuePair.Create(choice.Key, "1")]),
        _ => AnswerValue.Of(choice.Key),
    };
}
