using System.Collections.Immutable;
using System.Text.Json.Serialization;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Values;

namespace Sexton.Core.Formulas;

/// <summary>What a row of a formula does with what came out of the rows before it.</summary>
public enum FormulaStep
{
    /// <summary>Begins with something; only as the first row.</summary>
    Take,

    /// <summary>Adds a number.</summary>
    Plus,

    /// <summary>Takes a number away.</summary>
    Minus,

    /// <summary>Multiplies by a number.</summary>
    Times,

    /// <summary>Divides by a number; by nothing, nothing comes out.</summary>
    DividedBy,

    /// <summary>The greater of what there is and a number.</summary>
    AtLeast,

    /// <summary>The less of what there is and a number.</summary>
    AtMost,

    /// <summary>Up to the next multiple of <see cref="FormulaRow.To"/>.</summary>
    RoundUp,

    /// <summary>Down to the last multiple of <see cref="FormulaRow.To"/>.</summary>
    RoundDown,

    /// <summary>To the nearest multiple of <see cref="FormulaRow.To"/>, half away from zero.</summary>
    Round,

    /// <summary>Looks the number up in a table of bands.</summary>
    ByBands,

    /// <summary>Puts a text behind what there is, with <see cref="FormulaRow.Between"/> between two that are not empty.</summary>
    Then,
}

/// <summary>What is counted or summed over lines or units.</summary>
public enum Summary
{
    /// <summary>How many there are.</summary>
    Count,

    /// <summary>The sum of a number of each.</summary>
    Sum,

    /// <summary>The greatest of a number of each.</summary>
    Greatest,

    /// <summary>The least of a number of each.</summary>
    Least,
}

/// <summary>One row of a formula, as plain data: "times the plants a metre", "rounded up".</summary>
/// <param name="Do">What it does.</param>
/// <param name="Of">With what; null for a row that needs nothing.</param>
public sealed record FormulaRow(FormulaStep Do, Term? Of = null)
{
    /// <summary>Of rounding: the multiples to which it goes; above zero.</summary>
    public decimal To { get; init; } = 1;

    /// <summary>Of joining: what stands between.</summary>
    public string Between { get; init; } = " ";

    /// <summary>Of a table: what is given for what is over some number, in rising order. What is over none gives nothing.</summary>
    public ImmutableArray<FormulaBand> Bands { get; init; } = [];
}

/// <summary>A band of a table.</summary>
/// <param name="Over">The number; what is over it is in this band.</param>
/// <param name="Gives">What it gives.</param>
public sealed record FormulaBand(decimal Over, decimal Gives);

/// <summary>
/// Something that a row works with: a <see cref="Value"/>; a <see cref="Fact"/>, its length (<see cref="LengthBy"/>) or the days from it to
/// another (<see cref="DaysTo"/>); something counted or summed <see cref="Over"/> lines or units; or rows of their own.
/// </summary>
public sealed record Term
{
    /// <summary>A number or a text.</summary>
    public AnswerValue? Value { get; init; }

    /// <summary>The key of a fact; see <see cref="ShopFacts"/>.</summary>
    public string? Fact { get; init; }

    /// <summary>In what the length of the fact is counted: letters, characters or words.</summary>
    public AnswerMeasure? LengthBy { get; init; }

    /// <summary>The key of the day up to which days are counted from the day that is the fact.</summary>
    public string? DaysTo { get; init; }

    /// <summary>Over what is summed: lines or units.</summary>
    public Level? Over { get; init; }

    /// <summary>How it is summed.</summary>
    public Summary Summary { get; init; }

    /// <summary>Which of them; null for all.</summary>
    public Condition? Where { get; init; }

    /// <summary>Rows of their own; what comes out of them is worked with.</summary>
    public ImmutableArray<FormulaRow> Rows { get; init; } = [];

    /// <summary>What stands in where there is no answer; null for nothing, and then nothing comes out.</summary>
    public AnswerValue? Else { get; init; }

    /// <summary>The rows at any depth.</summary>
    [JsonIgnore]
    public IEnumerable<FormulaRow> Walk => Rows.SelectMany(static r => (r.Of?.Walk ?? []).Prepend(r));
}
