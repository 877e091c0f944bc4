namespace Sexton.Core.Types;

/// <summary>The stable codes of what can be wrong with an answer.</summary>
public static class RefusalKeys
{
    /// <summary>An answer must be given and was not.</summary>
    public const string Required = "required";

    /// <summary>The default was left as it is, and must be changed.</summary>
    public const string LeftAsProposed = "left_as_proposed";

    /// <summary>Right by itself, and refused beside other answers by a rule of the field.</summary>
    public const string RefusedByRule = "refused_by_rule";

    /// <summary>Not text: control characters, broken encoding, or something else where a text is wanted.</summary>
    public const string NotText = "not_text";

    /// <summary>A line break in an answer of one line.</summary>
    public const string LineBreak = "line_break";

    /// <summary>More characters than allowed; fills in: allowed, counted.</summary>
    public const string TooLong = "too_long";

    /// <summary>Fewer characters than wanted; fills in: wanted, counted.</summary>
    public const string TooShort = "too_short";

    /// <summary>More words than allowed; fills in: allowed, counted.</summary>
    public const string TooManyWords = "too_many_words";

    /// <summary>More lines than allowed; fills in: allowed, counted.</summary>
    public const string TooManyLines = "too_many_lines";

    /// <summary>A line with more characters than a line may have; fills in: allowed, counted, which line from 1.</summary>
    public const string LineTooLong = "line_too_long";

    /// <summary>Does not fit the pattern.</summary>
    public const string NotInPattern = "not_in_pattern";

    /// <summary>Has a word that is refused; fills in: the word.</summary>
    public const string RefusedWord = "refused_word";

    /// <summary>Not a number.</summary>
    public const string NotNumber = "not_number";

    /// <summary>Less than the least; fills in: the least.</summary>
    public const string TooLittle = "too_little";

    /// <summary>More than the most; fills in: the most.</summary>
    public const string TooMuch = "too_much";

    /// <summary>Too many digits after the point; fills in: how many there may be.</summary>
    public const string TooManyDecimals = "too_many_decimals";

    /// <summary>Not on a step; fills in: the step, where the steps begin.</summary>
    public const string OffStep = "off_step";

    /// <summary>Not a day of the calendar.</summary>
    public const string NotDay = "not_day";

    /// <summary>Before the earliest day; fills in: that day.</summary>
    public const string TooEarly = "too_early";

    /// <summary>After the latest day; fills in: that day.</summary>
    public const string TooLate = "too_late";

    /// <summary>A day that is left out; fills in: the day.</summary>
    public const string DayLeftOut = "day_left_out";

    /// <summary>Neither yes nor no.</summary>
    public const string NotYesOrNo = "not_yes_or_no";

    /// <summary>No, where only yes lets the order go on.</summary>
    public const string MustBeYes = "must_be_yes";

    /// <summary>Not one of the choices.</summary>
    public const string NotAChoice = "not_a_choice";

    /// <summary>A choice that is not offered here; fills in: the choice.</summary>
    public const string NotOffered = "not_offered";

    /// <summary>Fewer picks than wanted; fills in: wanted.</summary>
    public const string TooFewPicks = "too_few_picks";

    /// <summary>More picks than allowed; fills in: allowed.</summary>
    public const string TooManyPicks = "too_many_picks";

    /// <summary>A choice that excludes others was picked with others; fills in: the choice.</summary>
    public const string ExcludesOthers = "excludes_others";

    /// <summary>Not an e-mail address.</summary>
    public const string NotEmail = "not_email";

    /// <summary>Not a telephone number that can be dialled.</summary>
    public const string NotTelephone = "not_telephone";

    /// <summary>A part of an address is missing; fills in: the part.</summary>
    public const string PartMissing = "part_missing";

    /// <summary>A country that is not delivered to.</summary>
    public const string UnknownCountry = "unknown_country";
}
