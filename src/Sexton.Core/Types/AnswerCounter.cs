using Sexton.Core.Facts;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>Counts what of an answer an amount of money or a quantity is taken times.</summary>
public sealed class AnswerCounter
{
    private readonly RuledField _field;
    private readonly AnswerMeasure _by;
    private readonly bool _runs;

    /// <summary>Makes it.</summary>
    /// <param name="field">The field whose answers are counted.</param>
    /// <param name="by">What is counted.</param>
    /// <param name="choice">The key of the choice that alone counts; null for the answer as a whole.</param>
    /// <param name="runs">Whether words are counted by white space alone, dates and telephone numbers too.</param>
    public AnswerCounter(RuledField field, AnswerMeasure by, string? choice, bool runs = false)
    {
        (_field, _by, _runs) = (field, by, runs);
        for (var i = 0; choice is not null && i < field.Rule.Choices.Length; i++)
        {
            Choice = field.Rule.Choices[i].Key == choice ? field.Rule.Choices[i] : Choice;
        }
    }

    /// <summary>The choice that alone counts; null for the answer as a whole.</summary>
    public Choice? Choice { get; }

    /// <summary>The count in a canonical answer, at least 0; 0 when it does not count at all.</summary>
    /// <param name="value">The answer.</param>
    /// <param name="facts">Where it was given.</param>
    public decimal CountOf(AnswerValue value, IFacts facts)
    {
        if (Choice is not null)
        {
            return _field.Rule.TimesTaken(value, Choice.Key);
        }

        return value.Truth == false
            ? 0
            : _by switch
            {
                AnswerMeasure.Letter => TextCount.Letters(value.Text),
                AnswerMeasure.Character => Graphemes.Count(value.Text),
                AnswerMeasure.Word => _runs ? TextCount.Runs(value.Text) : TextCount.Words(value.Text!, facts.Home),
                AnswerMeasure.Count => value.Picks?.Length ?? _field.Rule.FactOf(value).Number!.Value,
                AnswerMeasure.Amount => value.Number!.Value,
                _ => 1,
            };
    }
}
