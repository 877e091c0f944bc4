using System.Globalization;

namespace Sexton.Core.Types;

/// <summary>The sums that are more than a line.</summary>
internal static partial class TaxNumberDigits
{
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
    private static bool ElevenTen(string number)
    {
        var product = 10;
        foreach (var c in number.AsSpan(0, number.Length - 1))
        {
            var sum = (Digit(c) + product) % 10;
            product = (sum == 0 ? 10 : sum) * 2 % 11;
        }

        return (11 - product) % 10 == Digit(number[^1]);
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

        var (first, second) = (
            Alphabet.IndexOf(number[0], StringComparison.Ordinal),
            Alphabet.IndexOf(number[1], StringComparison.Ordinal)
        );
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
    private static bool UnitedKingdom(string number) =>
        Weighted(number, 8, 7, 6, 5, 4, 3, 2, 10, 1) % 97 is var rest && (rest == 0 || (rest == 42 && Number(number[..3]) >= 100));

    // Seven digits, the office of the province that gave it, and a check digit.
    private static bool Italy(string number) =>
        Number(number[..7]) > 0 && Number(number[7..10]) is (>= 1 and <= 100) or 120 or 121 or 888 or 999 && Luhn(number);

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

    // Every second digit from the first is looked up in a row of odd numbers; the sum gives a letter.
    private static bool Cyprus(string number)
    {
        ReadOnlySpan<int> odd = [1, 0, 5, 7, 9, 13, 15, 17, 19, 21];
        var sum = 0;
        for (var i = 0; i < 8; i++)
        {
            sum += i % 2 == 0 ? odd[Digit(number[i])] : Digit(number[i]);
        }

        return 'A' + (sum % 26) == number[8];
    }

    // A person's number ends in a letter, by the remainder of 23; foreigners' begin with X, Y or Z for 0, 1 or 2. An organisation's begins with the
    // letter of its kind and ends in a letter or in a digit, some kinds in a letter only.
    private static bool Spain(string number)
    {
        const string Persons = "TRWAGMYFPDXBNJZSQVHLCKE",
            Organisations = "JABCDEFGHI";
        if (char.IsAsciiDigit(number[0]))
        {
            return Persons[(int)(Number(number[..8]) % 23)] == number[8];
        }

        if (number[0] is 'X' or 'Y' or 'Z')
        {
            return Persons[(int)(Number((number[0] - 'X') + number[1..8]) % 23)] == number[8];
        }

        if (number[0] is 'K' or 'L' or 'M')
        {
            return Persons[(int)(Number(number[1..8]) % 23)] == number[8];
        }

        var sum = 0;
        for (var i = 1; i < 8; i++)
        {
            sum += i % 2 == 1 ? Doubled(Digit(number[i])) : Digit(number[i]);
        }

        var check = (10 - (sum % 10)) % 10;
        var (asDigit, asLetter) = (number[8] == '0' + check, number[8] == Organisations[check]);
        return asLetter || (asDigit && !"NPQRSW".Contains(number[0], StringComparison.Ordinal));
    }

    // Two rows of weights: the second where the first comes to ten.
    private static bool Lithuania(string number)
    {
        var (first, second) = (0, 0);
        for (var i = 0; i < number.Length - 1; i++)
        {
            first += Digit(number[i]) * ((i % 9) + 1);
            second += Digit(number[i]) * (((i + 2) % 9) + 1);
        }

        var check = first % 11 == 10 ? second % 11 % 10 : first % 11;
        return check == Digit(number[^1]);
    }
}
