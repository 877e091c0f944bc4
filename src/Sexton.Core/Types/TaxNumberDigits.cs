using System.Collections.Frozen;
using System.Collections.Immutable;
using System.Text.RegularExpressions;

namespace Sexton.Core.Types;

/// <summary>
/// The check digits of value-added-tax numbers. The shapes are those that the European Commission publishes for its VIES service ("VAT number
/// structure"), and HMRC for the United Kingdom; the sums are those of the countries' tax offices, written from memory. Tests compare with two independent libraries.
/// </summary>
internal static partial class TaxNumberDigits
{
    private static readonly FrozenDictionary<string, (Regex Shape, Func<string, bool> Fits, string Example)> Rules = new Dictionary<
        string,
        (Regex, Func<string, bool>, string)
    >(StringComparer.Ordinal)
    {
        ["AT"] = (AtShape(), Austria, "U13585627"),
        ["BE"] = (BeShape(), static n => 97 - (Number(n[..8]) % 97) == Number(n[8..]), "0403019261"),
        ["CY"] = (CyShape(), Cyprus, "10259033P"),
        ["DE"] = (NineFromOneShape(), static n => ElevenTen(n), "136695976"),
        ["DK"] = (EightShape(), static n => Weighted(n, 2, 7, 6, 5, 4, 3, 2, 1) % 11 == 0, "13585628"),
        ["EE"] = (NineFromOneShape(), static n => (10 - (Weighted(n, 3, 7, 1, 3, 7, 1, 3, 7) % 10)) % 10 == Digit(n[8]), "100931558"),
        ["ES"] = (EsShape(), Spain, "J99216582"),
        ["FI"] = (EightShape(), static n => Weighted(n, 7, 9, 10, 5, 8, 4, 2, 1) % 11 == 0, "20774740"),
        ["FR"] = (FrShape(), France, "40303265045"),
        ["GB"] = (GbShape(), UnitedKingdom, "980780684"),
        ["HR"] = (ElevenShape(), static n => ElevenTen(n), "33392005961"),
        ["HU"] = (EightShape(), static n => (10 - (Weighted(n, 9, 7, 3, 1, 9, 7, 3) % 10)) % 10 == Digit(n[7]), "12892312"),
        ["IE"] = (IeShape(), Ireland, "1234567FA"),
        ["IT"] = (ElevenShape(), Italy, "00743110157"),
        ["LT"] = (LtShape(), Lithuania, "119511515"),
        ["LU"] = (EightShape(), static n => Number(n[..6]) % 89 == Number(n[6..]), "15027442"),
        ["MT"] = (EightFromOneShape(), static n => 37 - (Weighted(n, 3, 4, 6, 7, 8, 9) % 37) == Number(n[6..]), "11679112"),
        ["NL"] = (NlShape(), Netherlands, "004495445B01"),
        ["PL"] = (TenShape(), static n => Weighted(n[..9], 6, 5, 7, 2, 3, 4, 5, 6, 7) % 11 == Digit(n[9]), "8567346215"),
        ["PT"] = (
            NineFromOneShape(),
            static n => Weighted(n[..8], 9, 8, 7, 6, 5, 4, 3, 2) % 11 is var r && (r < 2 ? 0 : 11 - r) == Digit(n[8]),
            "501964843"
        ),
        ["RO"] = (
            RoShape(),
            static n => Weighted(n.PadLeft(10, '0'), 7, 5, 3, 2, 1, 7, 5, 3, 2) * 10 % 11 % 10 == Digit(n[^1]),
            "18547290"
        ),
        ["SE"] = (SeShape(), static n => Luhn(n[..10]), "123456789701"),
        ["SI"] = (
            EightFromOneShape(),
            static n => 11 - (Weighted(n, 8, 7, 6, 5, 4, 3, 2) % 11) is var c && c < 11 && c % 10 == Digit(n[7]),
            "50223054"
        ),
        ["SK"] = (SkShape(), static n => Number(n) % 11 == 0, "2022749619"),
    }.ToFrozenDictionary(StringComparer.Ordinal);

    /// <summary>The countries whose numbers are known (ISO 3166-1 alpha-2, which are their prefixes).</summary>
    public static ImmutableArray<string> Countries { get; } = [.. Rules.Keys.Order(StringComparer.Ordinal)];

    /// <summary>A number, with its prefix, that fits.</summary>
    public static string Example(string country) => country + Rules[country].Example;

    /// <summary>Whether a number without its prefix has the shape of its country and check digits that fit.</summary>
    public static bool Fit(string country, string number) =>
        Rules.TryGetValue(country, out var rule) && rule.Shape.IsMatch(number) && rule.Fits(number);

    [GeneratedRegex(@"\AU[0-9]{8}\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex AtShape();

    [GeneratedRegex(@"\A[01][0-9]{9}\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex BeShape();

    [GeneratedRegex(@"\A[1-9][0-9]{8}\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex NineFromOneShape();

    [GeneratedRegex(@"\A[0-9]{8}\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex EightShape();

    [GeneratedRegex(@"\A[0-9A-HJ-NP-Z]{2}[0-9]{9}\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex FrShape();

    [GeneratedRegex(@"\A[0-9]{9}([0-9]{3})?\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex GbShape();

    [GeneratedRegex(@"\A[0-9][0-9A-Z+*][0-9]{5}[A-W][A-IW]?\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex IeShape();

    [GeneratedRegex(@"\A[0-9]{11}\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex ElevenShape();

    [GeneratedRegex(@"\A[0-9]{9}B[0-9]{2}\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex NlShape();

    [GeneratedRegex(@"\A[0-9]{10}\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex TenShape();

    [GeneratedRegex(@"\A[0-9]{10}01\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex SeShape();

    [GeneratedRegex(@"\A(?!12)[0-59][0-9]{7}[A-Z]\z", RegexOptions.ExplicitCapture, 100)]
    private static partial Regex CyShape();

    [GeneratedRegex(@"\A([0-9]{8}[A-Z]|[A-HJ-NP-SUVWXYZ][0-9]{7}[0-9A-Z])\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex EsShape();

    [GeneratedRegex(@"\A([0-9]{7}1[0-9]|[0-9]{10}1[0-9])\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex LtShape();

    [GeneratedRegex(@"\A[1-9][0-9]{7}\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex EightFromOneShape();

    [GeneratedRegex(@"\A[1-9][0-9]{1,9}\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex RoShape();

    [GeneratedRegex(@"\A[1-9][0-9][2-46-9][0-9]{7}\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex SkShape();
}
