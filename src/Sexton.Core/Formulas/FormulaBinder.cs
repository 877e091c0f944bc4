using System.Collections.Immutable;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;

namespace Sexton.Core.Formulas;

/// <summary>Binds the rows of a formula to the fields of a plan, and says what keeps them from being bound.</summary>
/// <param name="conditions">Binds facts and conditions.</param>
/// <param name="level">The level of the field that is worked out.</param>
/// <param name="step">The place of the step where it must be known.</param>
/// <param name="reads">Takes the fields whose answers it reads.</param>
internal sealed class FormulaBinder(ConditionBinder conditions, Level level, int step, ISet<AnswerSource> reads)
{
    private const int Most = 60;

    /// <summary>Binds rows.</summary>
    /// <exception cref="ConditionException">They cannot be bound.</exception>
    public BoundFormula Bind(ImmutableArray<FormulaRow> rows)
    {
        if (rows.Length == 0 || rows[0].Do != FormulaStep.Take || rows.Skip(1).Any(static r => r.Do == FormulaStep.Take))
        {
            throw new ConditionException("The first row says what it begins with, and only that one.");
        }

        if (new Term { Rows = rows }.Walk.Count() > Most)
        {
            throw new ConditionException($"It has more than {Most} rows. Work part of it out in a field of its own.");
        }

        var bound = rows.Select(r => (Row: r, Of: Of(r))).ToImmutableArray();
        var text = rows.Any(static r => r.Do == FormulaStep.Then) || bound[0].Of!.IsText;
        var wrong = bound.Skip(1).FirstOrDefault(b => text != (b.Row.Do == FormulaStep.Then) || (!text && b.Of is { IsText: true }));
        return wrong.Row is null
            ? new BoundFormula(bound, text)
            : throw new ConditionException(
                text
                    ? "A text can only be joined to others, and not reckoned with."
                    : "It reckons with numbers, and one of them is a text. Choose another, or its length."
            );
    }

    private BoundTerm? Of(FormulaRow row)
    {
        if (row.To <= 0)
        {
            throw new ConditionException("It rounds to multiples of a number above 0.");
        }

        if (row.Do is FormulaStep.RoundUp or FormulaStep.RoundDown or FormulaStep.Round)
        {
            return null;
        }

        if (row.Do == FormulaStep.ByBands)
        {
            return row.Bands.IsEmpty || row.Bands.Zip(row.Bands.Skip(1)).Any(static b => b.First.Over >= b.Second.Over)
                ? throw new ConditionException("A table has bands, each over a greater number than the one before.")
                : null;
        }

        return Bind(row.Of ?? throw new ConditionException("Say with what a row works."), level);
    }

    private BoundTerm Bind(Term term, Level at)
    {
        var bound = Bare(term, at);
        return term.Else is null ? bound
            : term.Else.Text is not null && !bound.IsText
                ? throw new ConditionException("Where a number is missing, only a number can stand in.")
            : new ElseTerm(bound, new ValueTerm(term.Else));
    }

    private BoundTerm Bare(Term term, Level at)
    {
        if (term.Value is { } value)
        {
            return value.Number is not null || value.Text is not null
                ? new ValueTerm(value)
                : throw new ConditionException("Give a number or a text.");
        }

        if (!term.Rows.IsEmpty)
        {
            return new FormulaBinder(conditions, at, step, reads).Bind(term.Rows);
        }

        if (term.Over is { } over)
        {
            return Summed(term, over);
        }

        if (term.Fact is null)
        {
            throw new ConditionException("Say with what a row works.");
        }

        if (term.DaysTo is not null)
        {
            return new DaysTerm(Day(term.Fact, at), Day(term.DaysTo, at));
        }

        var plain = Plain(term.Fact, at);
        return term.LengthBy is not { } by ? plain
            : by is AnswerMeasure.Letter or AnswerMeasure.Character or AnswerMeasure.Word ? new LengthTerm(plain, by)
            : throw new ConditionException("A length is counted in letters, characters or words.");
    }

    private SummaryTerm Summed(Term term, Level over)
    {
        if (over == Level.Order || (over <= level && level != Level.Order))
        {
            throw new ConditionException("It sums over the lines of the order, or over the units of the line.");
        }

        conditions.CheckOver(over, level, step);
        var of = term.Summary == Summary.Count ? null : Plain(term.Fact ?? throw new ConditionException("Say what is summed."), over);
        return of is { IsText: true }
            ? throw new ConditionException("Only numbers can be summed.")
            : new SummaryTerm(over, term.Summary, of, term.Where is null ? null : conditions.Bind(term.Where, over, step, reads));
    }

    private BoundTerm Plain(string fact, Level at)
    {
        var (bound, kind) = conditions.BindFact(fact, FactKind.Number, at, step, reads);
        return conditions.FieldOf(fact) is { } field ? new AnswerTerm(field) : new FactTerm(bound, kind != FactKind.Number);
    }

    private BoundFact Day(string fact, Level at)
    {
        var (bound, kind) = conditions.BindFact(fact, FactKind.Day, at, step, reads);
        return kind == FactKind.Day ? bound : throw new ConditionException("Days are counted from one day to another.");
    }
}
