using Sexton.Core.Catalogue;
using Sexton.Core.Facts;
using Sexton.Core.Sentences;
using Sexton.Core.Values;

namespace Sexton.Core.Pricing;

/// <summary>Says prices in words, for staff and for shoppers.</summary>
/// <param name="currency">The currency (ISO 4217).</param>
/// <param name="language">The language whose separators are used.</param>
/// <param name="wording">What the shop says.</param>
public sealed class PriceWords(string currency, string language, Wording wording)
{
    private readonly MoneyFormat _money = new(currency, language);

    /// <summary>What a tariff comes to, as it stands beside a question or a choice: "+ € 0.20 a letter over 12, at most € 5.00".</summary>
    /// <param name="price">The price.</param>
    /// <param name="tariff">The tariff that applies.</param>
    public string Short(Price price, Tariff tariff)
    {
        if (price.By == AnswerMeasure.Amount)
        {
            return price.Kind == PriceKind.ForTheGoods ? Say("the_price") : Say("the_amount");
        }

        if (price.Kind == PriceKind.Percent)
        {
            return $"{PlusOrMinus(price, tariff.Ppm)}{Share(Math.Abs(tariff.Ppm))} {Say("of_the_price")}{Ceiling(tariff)}";
        }

        var once = price.Kind is PriceKind.OncePerLine or PriceKind.OncePerOrder ? " " + Say("once") : "";
        return $"{Amounts(price, tariff)}{once}{Ceiling(tariff)}";
    }

    /// <summary>A share, such as "7.5 %".</summary>
    /// <param name="ppm">The share in parts per million.</param>
    public string Share(int ppm) => Share(ppm, language);

    /// <inheritdoc cref="Share(int)"/>
    public static string Share(int ppm, string language) => (ppm / 10_000m).ToString("0.####", LanguageTag.CultureOf(language)) + "\u00a0%";

    /// <summary>A tax rate, such as "23 %", or why nothing is taxed.</summary>
    public string Rate(TaxRate rate) =>
        rate.Category switch
        {
            TaxCategory.Exempt => Say("exempt"),
            TaxCategory.Outside => Say("outside"),
            TaxCategory.ReverseCharge => Say("reverse_charge"),
            _ => Share(rate.Ppm),
        };

    /// <summary>What stands for a price that an answer is yet to say: the least that it comes to, or else what decides it.</summary>
    /// <param name="least">The least, in minor units; null where it is not known.</param>
    /// <param name="decidedBy">The question whose answer decides.</param>
    public string Open(long? least, string decidedBy) => least is { } from ? Say("from", Amount(from)) : Say("decided_by", decidedBy);

    /// <summary>How many are left of something that runs out: "3 left", "sold out"; "" where there is enough.</summary>
    /// <param name="left">How many; null for enough.</param>
    public string Left(long? left) =>
        left switch
        {
            null => "",
            0 => Say("sold_out"),
            { } few => Say("left", LocalText.Number(few, language)),
        };

    /// <summary>An amount with its currency.</summary>
    public string Amount(long minor) => _money.Of(minor);

    private string Say(string key, string? part = null) => wording.Say("price." + key, language, part);

    private string Amounts(Price price, Tariff tariff)
    {
        var each = price.BandForAll ? "" : Each(price.By);
        var first = $"{PlusOrMinus(price, tariff.Minor)}{Amount(Math.Abs(tariff.Minor))}{each}";
        if (tariff.Bands.IsEmpty)
        {
            return price.Included > 0 ? $"{first} {Say("over")} {price.Included}" : first;
        }

        // With bands, "over" says where one begins, and what is included is said by itself.
        var bands = tariff.Bands.Select(band =>
            $"{PlusOrMinus(price, band.Minor)}{Amount(Math.Abs(band.Minor))}{each} {Say("over")} {LocalText.Number(band.Over, language)}"
        );
        return (price.Included > 0 ? $"{price.Included} {Say("included_then")} " : "") + string.Join(", ", bands.Prepend(first));
    }

    private string Ceiling(Tariff tariff) => tariff.CeilingMinor is { } ceiling ? $", {Say("at_most")} {Amount(ceiling)}" : "";

    private static string PlusOrMinus(Price price, long amount) =>
        price.Kind == PriceKind.ForTheGoods ? ""
        : amount < 0 ? "− "
        : "+ ";

    private string Each(AnswerMeasure by) =>
        by switch
        {
            AnswerMeasure.Letter => " " + Say("a_letter"),
            AnswerMeasure.Character => " " + Say("a_character"),
            AnswerMeasure.Word => " " + Say("a_word"),
            AnswerMeasure.Count => " " + Say("each"),
            _ => "",
        };
}
