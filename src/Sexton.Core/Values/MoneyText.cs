using System.Collections.Frozen;
using System.Globalization;

namespace Sexton.Core.Values;

/// <summary>Writes amounts of money for people.</summary>
public static class MoneyText
{
    // ISO 4217: the currencies whose minor unit is not a hundredth.
    private static readonly FrozenDictionary<string, int> Exponents = new Dictionary<string, int>(StringComparer.Ordinal)
    {
        ["BHD"] = 3,
        ["BIF"] = 0,
        ["CLF"] = 4,
        ["CLP"] = 0,
        ["DJF"] = 0,
        ["GNF"] = 0,
        ["IQD"] = 3,
        ["ISK"] = 0,
        ["JOD"] = 3,
        ["JPY"] = 0,
        ["KMF"] = 0,
        ["KRW"] = 0,
        ["KWD"] = 3,
        ["LYD"] = 3,
        ["OMR"] = 3,
        ["PYG"] = 0,
        ["RWF"] = 0,
        ["TND"] = 3,
        ["UGX"] = 0,
        ["UYI"] = 0,
        ["UYW"] = 4,
        ["VND"] = 0,
        ["VUV"] = 0,
        ["XAF"] = 0,
        ["XOF"] = 0,
        ["XPF"] = 0,
    }.ToFrozenDictionary(StringComparer.Ordinal);

    /// <summary>The number of decimals of a currency (ISO 4217).</summary>
    public static int ExponentOf(string currency) => Exponents.GetValueOrDefault(currency, 2);

    /// <summary>How many minor units make one unit of a currency.</summary>
    public static decimal UnitOf(string currency) =>
        ExponentOf(currency) switch
        {
            0 => 1,
            3 => 1000,
            4 => 10_000,
            _ => 100,
        };

    /// <summary>The symbol of a currency, or its code where it has none that everybody knows.</summary>
    public static string SymbolOf(string currency) =>
        currency switch
        {
            "EUR" => "€",
            "GBP" => "£",
            "USD" => "$",
            _ => currency,
        };

    /// <summary>An amount as systems get it: the code of the currency, and the number with a point and all its decimals, such as "EUR 1234.50".</summary>
    public static string Plain(decimal amount, string currency) => $"{currency} {Number(amount, currency)}";

    /// <summary>The number of an amount with a point and all decimals of its currency, such as "1234.50".</summary>
    public static string Number(decimal amount, string currency) =>
        amount.ToString("F" + ExponentOf(currency).ToString(CultureInfo.InvariantCulture), CultureInfo.InvariantCulture);

    /// <summary>An amount with its currency, such as "€ 1,234.50", "−€ 2.00" or "SEK 12.00"; behind the number where the language has it there (Unicode CLDR): "1.234,50 €".</summary>
    /// <param name="minor">The amount in minor units.</param>
    /// <param name="currency">The currency (ISO 4217).</param>
    /// <param name="language">The language whose separators and place of the symbol are used.</param>
    /// <example><code>MoneyText.Format(123450, "EUR", "en") // "€ 1,234.50"</code></example>
    public static string Format(long minor, string currency, string language) => new MoneyFormat(currency, language).Of(minor);
}

/// <summary>How amounts of one currency are written in one language, for writing many of them.</summary>
/// <param name="currency">The currency (ISO 4217).</param>
/// <param name="language">The language whose separators are used.</param>
internal readonly struct MoneyFormat(string currency, string language)
{
    private readonly string _symbol = MoneyText.SymbolOf(currency);
    private readonly decimal _unit = MoneyText.UnitOf(currency);
    private readonly string _number = "N" + MoneyText.ExponentOf(currency).ToString(CultureInfo.InvariantCulture);
    private readonly CultureInfo _culture = LanguageTag.CultureOf(language);

    /// <inheritdoc cref="MoneyText.Format"/>
    public string Of(long minor)
    {
        // 1 and 3 of the patterns have the symbol behind the number.
        var number = (Math.Abs(new decimal(minor)) / _unit).ToString(_number, _culture);
        var isBehind = _culture.NumberFormat.CurrencyPositivePattern is 1 or 3;
        return (minor < 0 ? "\u2212" : "") + (isBehind ? $"{number}\u00a0{_symbol}" : $"{_symbol}\u00a0{number}");
    }
}
