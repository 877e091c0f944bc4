using System.Runtime.InteropServices;
using Sexton.Core.Facts;
using Sexton.Core.Plan;

namespace Sexton.Core.Checks.PossibleCodes;

/// <summary>What is left open of the answer to one field.</summary>
/// <param name="Empty">Whether there can be no answer.</param>
/// <param name="Answered">Whether there can be one.</param>
/// <param name="Choices">Which of its choices can be taken, '1' or '0' for each in its order.</param>
[StructLayout(LayoutKind.Auto)]
internal readonly record struct PossibleAnswers(bool Empty, bool Answered, string Choices)
{
    /// <summary>Whatever the conditions of a field come to: what is asked of everybody and must be answered is there, and anything else can be missing.</summary>
    public static PossibleAnswers Of(PlannedField field) =>
        new(!(IsThereWhenAsked(field) && IsAskedOfAll(field)), true, new string('1', field.Rule.Choices.Length));

    /// <summary>Whether it contributes wherever it is asked: it must be answered, and an answer is not a "no".</summary>
    public static bool IsThereWhenAsked(PlannedField field) => field.Field.Required && field.Rule.Fact != FactKind.Truth;

    private static bool IsAskedOfAll(PlannedField field) =>
        field.When is null
        && field.Field.AskedOf.Groups.IsEmpty
        && (field.Within is not { } section || (section.When is null && section.Field.AskedOf.Groups.IsEmpty && !section.Asks));
}
