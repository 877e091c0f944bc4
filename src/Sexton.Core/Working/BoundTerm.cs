using System.Collections.Immutable;
using System.Globalization;
using Sexton.Core.Asking;
using Sexton.Core.Conditions;
using Sexton.Core.Pricing;
using Sexton.Core.Register;

namespace Sexton.Core.Working;

/// <summary>A term bound to the facts and answers of a plan. Null where there is nothing.</summary>
internal abstract class BoundTerm
{
    /// <summary>Whether it is a text; else a number.</summary>
    public virtual bool IsText => false;

    protected static Fraction Greater(Fraction a, Fraction b) => a >= b ? a : b;

    protected static Fraction Less(Fraction a, Fraction b) => a <= b ? a : b;

    protected static Fraction? Exact(decimal? number) => number is { } known ? Fraction.Of(known) : null;

    /// <summary>The term as an exact number.</summary>
    public virtual Fraction? Number(Evaluation evaluation, Place place) => null;

    /// <summary>The term as a text; a number as people read it, of at most twelve digits after the point.</summary>
    public virtual string? Text(Evaluation evaluation, Place place) =>
        Number(evaluation, place)?.ToDecimal(12) is { } number ? Written.Number(number, evaluation.Cart.Language) : null;
}

internal sealed class ValueTerm(AnswerValue value) : BoundTerm
{
    public override bool IsText => value.Text is not null;

    public override Fraction? Number(Evaluation evaluation, Place place) => Exact(value.Number);

    public override string? Text(Evaluation evaluation, Place place) => value.Text ?? base.Text(evaluation, place);
}

/// <summary>An answer: as a number what conditions see of it, as a text what every destination shows.</summary>
internal sealed class AnswerTerm(PlannedField answered) : BoundTerm
{
    public override bool IsText => answered.Rule.Fact != FactKind.Number;

    public override Fraction? Number(Evaluation evaluation, Place place) =>
        evaluation.ValueOf(answered, place) is { } value ? Exact(answered.Rule.FactOf(value).Number) : null;

    public override string? Text(Evaluation evaluation, Place place) =>
        evaluation.ValueOf(answered, place) is { } value ? answered.Rule.TextOf(value, evaluation.Cart.Language) : null;
}

internal sealed class FactTerm(BoundFact fact, bool text) : BoundTerm
{
    public override bool IsText => text;

    public override Fraction? Number(Evaluation evaluation, Place place) => Exact(fact.Number(evaluation, place));

    public override string? Text(Evaluation evaluation, Place place) => fact.Text(evaluation, place) ?? base.Text(evaluation, place);
}

internal sealed class LengthTerm(BoundTerm of, PriceBy by) : BoundTerm
{
    public override Fraction? Number(Evaluation evaluation, Place place) =>
        of.Text(evaluation, place) is not { } text
            ? null
            : Exact(
                by switch
                {
                    PriceBy.Letter => TextCount.Letters(text),
                    PriceBy.Word => TextCount.Words(text),
                    _ => Graphemes.Count(text),
                }
            );
}

/// <summary>The days from one day to another; below zero when the other is earlier.</summary>
internal sealed class DaysTerm(BoundFact from, BoundFact to) : BoundTerm
{
    public override Fraction? Number(Evaluation evaluation, Place place) =>
        Day(from.Text(evaluation, place)) is { } first && Day(to.Text(evaluation, place)) is { } last
            ? Exact(last.DayNumber - first.DayNumber)
            : null;

    private static DateOnly? Day(string? text) =>
        DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day) ? day : null;
}

/// <summary>Something counted or summed over the lines, or the units of the line at hand, or of all lines where there is none at hand.</summary>
internal sealed class SummaryTerm(Level over, Summary summary, BoundTerm? of, BoundCondition? where) : BoundTerm
{
    public override Fraction? Number(Evaluation evaluation, Place place)
    {
        var (count, sum) = (0, (Fraction?)null);
        var (from, to) = over == Level.Unit && place.Line >= 0 ? (place.Line, place.Line + 1) : (0, evaluation.LineCount);
        for (var line = from; line < to; line++)
        {
            var places =
                !evaluation.IsSold(line) ? 0
                : over == Level.Unit ? evaluation.UnitsOf(line)
                : 1;
            for (var i = 0; i < places; i++)
            {
                var at = new Place(line, over == Level.Unit ? i : -1);
                if (where?.Holds(evaluation, at) == false)
                {
                    continue;
                }

                count++;
                sum = With(sum, of?.Number(evaluation, at));
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

    public override Fraction? Number(Evaluation evaluation, Place place) =>
        term.Number(evaluation, place) ?? other.Number(evaluation, place);

    public override string? Text(Evaluation evaluation, Place place) => term.Text(evaluation, place) ?? other.Text(evaluation, place);
}

/// <summary>Rows bound: each works with what came out of those before it. Where a number is missing, nothing comes out; a missing text joins nothing.</summary>
internal sealed class BoundWorking(ImmutableArray<(WorkingRow Row, BoundTerm? Of)> rows, bool text) : BoundTerm
{
    public override bool IsText => text;

    public override Fraction? Number(Evaluation evaluation, Place place)
    {
        if (text)
        {
            return null;
        }

        var value = rows[0].Of!.Number(evaluation, place);
        for (var i = 1; i < rows.Length && value is not null; i++)
        {
            value = Apply(rows[i].Row, value.Value, rows[i].Of?.Number(evaluation, place));
        }

        return value;
    }

    public override string? Text(Evaluation evaluation, Place place)
    {
        if (!text)
        {
            return base.Text(evaluation, place);
        }

        var joined = rows[0].Of!.Text(evaluation, place) ?? "";
        foreach (var (row, of) in rows.AsSpan()[1..])
        {
            if (of!.Text(evaluation, place) is { Length: > 0 } next)
            {
                joined = joined.Length == 0 ? next : joined + row.Between + next;
            }
        }

        return joined.Length == 0 ? null : joined;
    }

    private static Fraction? Apply(WorkingRow row, Fraction value, Fraction? other) =>
        row.Do switch
        {
            WorkingStep.RoundUp => (value / Fraction.Of(row.To)).Ceiling() * Fraction.Of(row.To),
            WorkingStep.RoundDown => (value / Fraction.Of(row.To)).Floor() * Fraction.Of(row.To),
            WorkingStep.Round => (value / Fraction.Of(row.To)).Round() * Fraction.Of(row.To),
            WorkingStep.ByBands => Exact(row.Bands.LastOrDefault(b => value > Fraction.Of(b.Over))?.Gives),
            _ when other is null => null,
            WorkingStep.Plus => value + other,
            WorkingStep.Minus => value - other,
            WorkingStep.Times => value * other,
            WorkingStep.DividedBy => other.Value.IsZero ? null : value / other,
            WorkingStep.AtLeast => Greater(value, other.Value),
            _ => Less(value, other.Value),
        };
}
