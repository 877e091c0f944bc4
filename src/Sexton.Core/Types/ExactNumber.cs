using System.Buffers;
using System.Globalization;
using System.Text.RegularExpressions;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>How exact decimal numbers are read, whatever type they belong to: as the language of whoever types them writes them, and never by guessing.</summary>
internal static partial class ExactNumber
{
    /// <summary>A number can be read in two ways: as one with decimals, and as one with thousands; fills in: both.</summary>
    public const string TwoReadings = "two_readings";

    private static readonly SearchValues<char> Separators = SearchValues.Create(" ,.'\u00a0\u202f\u2019");

    /// <summary>Reads a number that was entered as one, or as a text.</summary>
    /// <param name="raw">What was entered.</param>
    /// <param name="language">The language in which it was asked.</param>
    /// <param name="decimals">How many digits after the point it may have.</param>
    /// <param name="write">Writes a reading for the shopper, in a language.</param>
    /// <param name="number">The number.</param>
    /// <param name="twice">That it can be read in two ways, where that is so.</param>
    /// <returns>False when it is no number, or could be two.</returns>
    public static bool TryRead(
        AnswerValue raw,
        string language,
        int decimals,
        Func<decimal, string, string> write,
        out decimal number,
        out Refusal? twice
    )
    {
        twice = null;
        number = raw.Number ?? 0;
        return raw.Number is not null
            || TryReadText((raw.Text ?? "").Trim().Replace('\u2212', '-'), language, decimals, write, out number, out twice);
    }

    /// <summary>The canonical answer of a number: without trailing zeros, and the very one that was entered where it is that.</summary>
    public static AnswerValue Canonical(AnswerValue raw, decimal number)
    {
        // Dividing by one with all its zeros takes the trailing zeros away, which JSON would otherwise keep apart.
        var plain = number.Scale == 0 ? number : number / 1.0000000000000000000000000000m;
        return raw.Number is not null && plain.Scale == number.Scale ? raw : AnswerValue.Of(plain);
    }

    // Apart, so that a number that came as one makes no closure.
    private static bool TryReadText(
        string text,
        string language,
        int decimals,
        Func<decimal, string, string> write,
        out decimal number,
        out Refusal? twice
    )
    {
        (twice, number) = (null, 0);
        if (text.AsSpan().IndexOfAny(Separators) < 0)
        {
            return Parse(text, '.', out number);
        }

        var format = LanguageTag.CultureOf(language).NumberFormat;
        var (point, comma) = format.NumberDecimalSeparator == "," ? (',', '.') : ('.', ',');

        // Thousands in groups of three behind the language's own separator, a space, or an apostrophe; then its decimals.
        if (Grouped(comma).IsMatch(text) || Spaced(point).IsMatch(text))
        {
            return Parse(string.Concat(text.Where(c => c == point || c is '-' or '+' || char.IsAsciiDigit(c))), point, out number);
        }

        if (text.Count(c => c is ',' or '.') > 1)
        {
            return false;
        }

        // One separator is that of decimals, whichever it is; but three digits behind it are thousands to half of the world.
        var own = text.Contains(point, StringComparison.Ordinal);
        if (
            Thousand().IsMatch(text)
            && Parse(text, own ? point : comma, out var small)
            && decimals < 3
            && decimal.Round(small, decimals) == small
            && Parse(string.Concat(text.Where(static c => c is not (',' or '.'))), '.', out var great)
        )
        {
            twice = new Refusal(TwoReadings, write(small, language), write(great, language));
            return false;
        }

        return Parse(text, own ? point : comma, out number);
    }

    private static bool Parse(string text, char point, out decimal number) =>
        decimal.TryParse(
            text.Replace(point, '.'),
            NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint,
            CultureInfo.InvariantCulture,
            out number
        );

    private static Regex Grouped(char by) => by == ',' ? ByCommas() : ByPoints();

    private static Regex Spaced(char point) => point == '.' ? SpacesThenPoint() : SpacesThenComma();

    [GeneratedRegex(@"\A[-+]?[1-9][0-9]{0,2}(,[0-9]{3})+(\.[0-9]*)?\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex ByCommas();

    [GeneratedRegex(@"\A[-+]?[1-9][0-9]{0,2}(\.[0-9]{3})+(,[0-9]*)?\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex ByPoints();

    [GeneratedRegex(
        @"\A[-+]?[1-9][0-9]{0,2}([ \u00A0\u202F'\u2019][0-9]{3})+(\.[0-9]*)?\z",
        RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture
    )]
    private static partial Regex SpacesThenPoint();

    [GeneratedRegex(
        @"\A[-+]?[1-9][0-9]{0,2}([ \u00A0\u202F'\u2019][0-9]{3})+(,[0-9]*)?\z",
        RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture
    )]
    private static partial Regex SpacesThenComma();

    [GeneratedRegex(@"\A[-+]?[1-9][0-9]{0,2}[.,][0-9]{3}\z", RegexOptions.NonBacktracking)]
    private static partial Regex Thousand();
}
