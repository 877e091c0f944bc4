using Sexton.Core.Catalogue;
using Sexton.Core.Plan;
using Sexton.Core.Values;

namespace Sexton.Core.Checks.PossibleCodes;

/// <summary>A code that can come up, and of what.</summary>
/// <param name="Code">The code.</param>
/// <param name="Goods">The goods.</param>
/// <param name="Answers">The answers that make it, by field; null for one of which it does not matter what it says. A field without an answer is left out.</param>
/// <param name="Last">The last field that contributes to it, by an answer or by what stands for none; null where it is that of the goods alone.</param>
public sealed record PossibleCode(
    string Code,
    Goods Goods,
    IReadOnlyList<KeyValuePair<PlannedField, AnswerValue?>> Answers,
    PlannedField? Last
)
{
    /// <summary>What it is of, in words: "“Zinc label” with “Typeface: Roman”".</summary>
    public override string ToString() =>
        $"“{Goods.NameIn(LanguageMap.Fallback)}”" + (Answers.Count == 0 ? "" : " with " + string.Join(" and ", Answers.Select(Words)));

    private static string Words(KeyValuePair<PlannedField, AnswerValue?> answer) =>
        answer.Value is { } value
            ? $"“{answer.Key.Field.NameForStaff}: {answer.Key.Rule.TextOf(value, LanguageMap.Fallback).Replace('\n', ',')}”"
            : $"“{answer.Key.Field.NameForStaff}” answered";
}
