using System.Collections.Immutable;
using System.Globalization;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Values;

namespace Sexton.Core.Formulas;

/// <summary>A term bound to the facts and answers of a plan. Null where there is nothing.</summary>
internal abstract class BoundTerm
{
    /// <summary>Whether it is a text; else a number.</summary>
    public virtual bool IsText => false;

    protected static Fraction Greater(Fraction a, Fraction b) => a >= b ? a : b;

    protected static Fraction Less(Fraction a, Fraction b) => a <= b ? a : b;

    protected static Fraction? Exact(decimal? number) => number is { } known ? Fraction.Of(known) : null;

    /// <summary>The term as an exact number.</summary>
    public virtual Fraction? Number(IFacts facts, Place place) => null;

    /// <summary>The term as a text; a number as people read it, of at most twelve digits after the point.</summary>
    public virtual string? Text(IFacts facts, Place place) =>
        Number(facts, place)?.ToDecimal(12) is { } number ? LocalText.Number(number, facts.Language) : null;
}

internal sealed class ValueTerm(AnswerValue value) : BoundTerm
{
    public override bool IsText => value.Text is not null;

    public override Fraction? Number(IFacts facts, Place place) => Exact(value.Number);

    public override string? Text(IFacts facts, Place place) => value.Text ?? base.Text(facts, place);
}

/// <summary>An answer: as a number what conditions see of it, as a text what every destination shows.</summary>
internal sealed class AnswerTerm(AnswerSource answered) : BoundTerm
{
    public override bool IsText => answered.FactKind != FactKind.Number;

    public override Fraction? Number(IFacts facts, Place place) =>
        facts.ValueOf(answered, place) is { } value ? Exact(answered.FactOf(value).Number) : null;

    public override string? Text(IFacts facts, Place place) =>
        facts.ValueOf(answered, place) is { } value ? answered.TextOf(value, facts.Language) : null;
}

internal sealed class FactTerm(BoundFact fact, bool text) : BoundTerm
{
    public override bool IsText => text;

    public override Fraction? Number(IFacts facts, Place place) => Exact(fact.Number(facts, place));

    public override string? Text(IFacts facts, Place place) => fact.Text(facts, place) ?? base.Text(facts, place);
}

internal sealed class LengthTerm(BoundTerm of, AnswerMeasure by) : BoundTerm
{
    public override Fraction? Number(IFacts facts, Place place) =>
        of.Text(facts, place) is not { } text
            ? null
            : Exact(
                by switch
                {
                    AnswerMeasure.Letter => TextCount.Letters(text),
                    AnswerMeasure.Word => TextCount.Words(text, facts.Home),
                    _ => Graphemes.Count(text),
                }
            );
}

/// <summary>The days from one day to another; below zero when the other is earlier.</summary>
internal sealed class DaysTerm(BoundFact from, BoundFact to) : BoundTerm
{
    public override Fraction? Number(IFacts facts, Place place) =>
        Day(from.Text(facts, place)) is { } first && Day(to.Text(facts, place)) is { } last
            ? Exact(last.DayNumber - first.DayNumber)
            : null;

    private static DateOnly? Day(string? text) =>
        DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day) ? day : null;
}

/// <summary>Something counted or summed over the lines, or the units of the line at hand, or of all lines where there is none at hand.</summary>
internal sealed class SummaryTerm(Level over, Summary summary, BoundTerm? of, BoundCondition? where) : BoundTerm
{
    public override Fraction? Number(IFacts facts, Place place)
    {
        var (count, sum) = (0, (Fraction?)null);
        foreach (var at in facts.PlacesOver(over, place))
        {
            if (where?.Holds(facts, at) != false)
            {
                count++;
                sum = With(sum, of?.Number(facts, at));
            }
        }

        return summary == Summary.Count ? Exact(count) : sum;
    }

    // Who gave no number adds none.
    private Fraction? With(Fraction? sum, Fraction? next) =>
        (sum, next) switch
        {
            (_, null) => sum,
            (null, _) => next,
            _ => summary switch
            {
                Summary.Greatest => Greater(sum.Value, next.Value),
                Summary.Least => Less(sum.Value, next.Value),
                _ => sum + next,
            },
        };
}

/// <summary>A term with what stands in where there is nothing.</summary>
internal sealed class ElseTerm(BoundTerm term, BoundTerm other) : BoundTerm
{
    public override bool IsText => term.IsText;

    public override Fraction? Number(IFacts facts, Place place) => term.Number(facts, place) ?? other.Number(facts, place);

    public override string? Text(IFacts facts, Place place) => term.Text(facts, place) ?? other.Text(facts, place);
}

/// <summary>Rows bound: each works with what came out of those before it. Where a number is missing, nothing comes out; a missing text joins nothing.</summary>
internal sealed class BoundFormula(ImmutableArray<(FormulaRow Row, BoundTerm? Of)> rows, bool text) : BoundTerm
{
    public override bool IsText => text;

    public override Fraction? Number(IFacts facts, Place place)
    {
        if (text)
        {
            return null;
        }

        var value = rows[0].Of!.Number(facts, place);
        for (var i = 1; i < rows.Length && value is not null; i++)
        {
            value = Apply(rows[i].Row, value.Value, rows[i].Of?.Number(facts, place));
        }

        return value;
    }

    public override string? Text(IFacts facts, Place place)
    {
        if (!text)
        {
            return base.Text(facts, place);
        }

        var joined = rows[0].Of!.Text(facts, place) ?? "";
        foreach (var (row, of) in rows.AsSpan()[1..])
        {
            if (of!.Text(facts, place) is { Length: > 0 } next)
            {
                joined = joined.Length == 0 ? next : joined + row.Between + next;
            }
        }

        return joined.Length == 0 ? null : joined;
    }

    private static Fraction? Apply(FormulaRow row, Fraction value, Fraction? other) =>
        row.Do switch
        {
            FormulaStep.RoundUp => (value / Fraction.Of(row.To)).Ceiling() * Fraction.Of(row.To),
            FormulaStep.RoundDown => (value / Fraction.Of(row.To)).Floor() * Fraction.Of(row.To),
            FormulaStep.Round => (value / Fraction.Of(row.To)).Round() * Fraction.Of(row.To),
            FormulaStep.ByBands => Exact(row.Bands.LastOrDefault(b => value > Fraction.Of(b.Over))?.Gives),
            _ when other is null => null,
            FormulaStep.Plus => value + other,
            FormulaStep.Minus => value - other,
            FormulaStep.Times => value * other,
            FormulaStep.DividedBy => other.Value.IsZero ? null : value / other,
            FormulaStep.AtLeast => Greater(value, other.Value),
            _ => Less(value, other.Value),
        };
}
