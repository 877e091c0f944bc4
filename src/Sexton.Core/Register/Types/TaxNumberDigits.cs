using System.Collections.Frozen;
using System.Collections.Immutable;
using System.Globalization;
using System.Text.RegularExpressions;

namespace Sexton.Core.Register.Types;

/// <summary>
/// The check digits of value-added-tax numbers. The shapes are those that the European Commission publishes for its VIES service ("VAT number
/// structure"), and HMRC for the United Kingdom; the sums are those of the countries' tax offices, written from memory. Tests compare with two independent libraries.
/// </summary>
internal static partial class TaxNumberDigits
{
    private static readonly FrozenDictionary<string, (Regex Shape, Func<string, bool> Fits, string Example)> Rules =
        new Dictionary<string, (Regex, Func<string, bool>, string)>(StringComparer.Ordinal)
        {
            ["AT"] = (AtShape(), Austria, "U13585627"),
            ["BE"] = (BeShape(), static n => 97 - (Number(n[..8]) % 97) == Number(n[8..]), "0403019261"),
            ["DE"] = (DeShape(), Germany, "136695976"),
            ["DK"] = (EightShape(), static n => Weighted(n, 2, 7, 6, 5, 4, 3, 2, 1) % 11 == 0, "13585628"),
            ["FI"] = (EightShape(), static n => Weighted(n, 7, 9, 10, 5, 8, 4, 2, 1) % 11 == 0, "20774740"),
            ["FR"] = (FrShape(), France, "40303265045"),
            ["GB"] = (GbShape(), UnitedKingdom, "980780684"),
            ["IE"] = (IeShape(), Ireland, "1234567FA"),
            ["IT"] = (ItShape(), Italy, "00743110157"),
            ["LU"] = (EightShape(), static n => Number(n[..6]) % 89 == Number(n[6..]), "15027442"),
            ["NL"] = (NlShape(), Netherlands, "004495445B01"),
            ["PL"] = (TenShape(), static n => Weighted(n[..9], 6, 5, 7, 2, 3, 4, 5, 6, 7) % 11 == Digit(n[9]), "8567346215"),
            ["PT"] = (PtShape(), static n => Weighted(n[..8], 9, 8, 7, 6, 5, 4, 3, 2) % 11 is var r && (r < 2 ? 0 : 11 - r) == Digit(n[8]), "501964843"),
            ["SE"] = (SeShape(), static n => Luhn(n[..10]), "123456789701"),
        }.ToFrozenDictionary(StringComparer.Ordinal);

    /// <summary>The countries whose numbers are known (ISO 3166-1 alpha-2, which are their prefixes).</summary>
    public static ImmutableArray<string> Countries { get; } = [.. Rules.Keys.Order(StringComparer.Ordinal)];

    /// <summary>A number, with its prefix, that fits.</summary>
    public static string Example(string country) => country + Rules[country].Example;

    /// <summary>Whether a number without its prefix has the shape of its country and check digits that fit.</summary>
    public static bool Fit(string country, string number) => Rules.TryGetValue(country, out var rule) && rule.Shape.IsMatch(number) && rule.Fits(number);

    private static bool Austria(string number)
    {
        // The letter U, seven digits of which every second is doubled and its digits summed, and the check digit.
        var sum = 4;
        for (var i = 1; i < 8; i++)
        {
            var digit = Digit(number[i]);
            sum += i % 2 == 1 ? digit : Doubled(digit);
        }

        return (10 - (sum % 10)) % 10 == Digit(number[8]);
    }

    // ISO 7064, MOD 11,10.
    private static bool Germany(string number)
    {
        var product = 10;
        foreach (var c in number.AsSpan(0, 8))
        {
            var sum = (Digit(c) + product) % 10;
            product = (sum == 0 ? 10 : sum) * 2 % 11;
        }

        return (11 - product) % 10 == Digit(number[8]);
    }

    // Two check characters before the nine digits of the SIREN; that of Monaco has no check digit of its own and begins with 000.
    private static bool France(string number)
    {
        const string Alphabet = "0123456789ABCDEFGHJKLMNPQRSTUVWXYZ";
        var siren = number[2..];
        if (!siren.StartsWith("000", StringComparison.Ordinal) && !Luhn(siren))
        {
            return false;
        }

        var (first, second) = (Alphabet.IndexOf(number[0], StringComparison.Ordinal), Alphabet.IndexOf(number[1], StringComparison.Ordinal));
        if (first < 10 && second < 10)
        {
            return (first * 10) + second == Number(siren + "12") % 97;
        }

        var check = first < 10 ? (first * 24) + second - 10 : (first * 34) + second - 100;
        return (Number(siren) + 1 + (check / 11)) % 11 == check % 11;
    }

    // Seven digits and a check letter, and since 2013 often a second letter, which counts nine times; before 2013 some had a letter or sign second.
    private static bool Ireland(string number)
    {
        const string Letters = "WABCDEFGHIJKLMNOPQRSTUV";
        var plain = char.IsAsciiDigit(number[1]) ? number : "0" + number[2..7] + number[0] + number[7..];
        var second = plain.Length == 9 && plain[8] != 'W' ? plain[8] - 'A' + 1 : 0;
        return Letters[(Weighted(plain[..7], 8, 7, 6, 5, 4, 3, 2) + (9 * second)) % 23] == plain[7];
    }

    // The remainder of 97, and for numbers from 100 00 00 00 on also that with 55 added.
    private static bool UnitedKingdom(string number) => Weighted(number, 8, 7, 6, 5, 4, 3, 2, 10, 1) % 97 is var rest && (rest == 0 || (rest == 42 && Number(number[..3]) >= 100));

    // Seven digits, the office of the province that gave it, and a check digit.
    private static bool Italy(string number) => Number(number[..7]) > 0 && Number(number[7..10]) is (>= 1 and <= 100) or 120 or 121 or 888 or 999 && Luhn(number);

    // The eleven test of a person's or organisation's number, or, of sole traders since 2020, ISO 7064 MOD 97-10 over the whole.
    private static bool Netherlands(string number)
    {
        if ((Weighted(number[..8], 9, 8, 7, 6, 5, 4, 3, 2) - Digit(number[8])) % 11 == 0)
        {
            return true;
        }

        var rest = 0;
        foreach (var c in "NL" + number)
        {
            rest = char.IsAsciiDigit(c) ? ((rest * 10) + Digit(c)) % 97 : ((rest * 100) + (c - 'A' + 10)) % 97;
        }

        return rest == 1;
    }

    private static bool Luhn(string number)
    {
        var sum = 0;
        for (var i = 0; i < number.Length; i++)
        {
            var digit = Digit(number[^(i + 1)]);
            sum += i % 2 == 0 ? digit : Doubled(digit);
        }

        return sum % 10 == 0;
    }

    private static int Weighted(string number, params ReadOnlySpan<int> weights)
    {
        var sum = 0;
        for (var i = 0; i < weights.Length; i++)
        {
            sum += Digit(number[i]) * weights[i];
        }

        return sum;
    }

    // Twice a digit, and the digits of that summed.
    private static int Doubled(int digit) => (digit / 5) + (digit * 2 % 10);

    private static int Digit(char c) => c - '0';

    private static long Number(string digits) => long.Parse(digits, NumberStyles.None, CultureInfo.InvariantCulture);

    [GeneratedRegex(@"\AU[0-9]{8}\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex AtShape();

    [GeneratedRegex(@"\A[01][0-9]{9}\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex BeShape();

    [GeneratedRegex(@"\A[1-9][0-9]{8}\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex DeShape();

    [GeneratedRegex(@"\A[0-9]{8}\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex EightShape();

    [GeneratedRegex(@"\A[0-9A-HJ-NP-Z]{2}[0-9]{9}\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex FrShape();

    [GeneratedRegex(@"\A[0-9]{9}([0-9]{3})?\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex GbShape();

    [GeneratedRegex(@"\A[0-9][0-9A-Z+*][0-9]{5}[A-W][A-IW]?\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex IeShape();

    [GeneratedRegex(@"\A[0-9]{11}\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex ItShape();

    [GeneratedRegex(@"\A[0-9]{9}B[0-9]{2}\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex NlShape();

    [GeneratedRegex(@"\A[0-9]{10}\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex TenShape();

    [GeneratedRegex(@"\A[1-9][0-9]{8}\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex PtShape();

    [GeneratedRegex(@"\A[0-9]{10}01\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex SeShape();
}
