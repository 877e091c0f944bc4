using System.Collections.Immutable;
using Sexton.Core.Catalogue;
using Sexton.Core.Facts;
using Sexton.Core.Types;

namespace Sexton.Core.Pricing;

/// <summary>What the prices of a field can be, and what is wrong with those it has.</summary>
public static class PriceRules
{
    private const int Most = 200;
    private const int MostBands = 50;

    /// <summary>What is wrong with the prices of a field, a sentence each.</summary>
    /// <param name="field">The field.</param>
    /// <param name="prices">Its prices as defined.</param>
    /// <param name="includedPicks">How many picks are included.</param>
    internal static IEnumerable<string> Problems(RuledField field, ImmutableArray<Price> prices, int includedPicks)
    {
        if (prices.Length > Most)
        {
            yield return $"It has {prices.Length} prices, and can have {Most}.";
        }

        if (includedPicks < 0)
        {
            yield return "The number of picks that are included is at least 0.";
        }

        if (!prices.IsEmpty && field.Type.AsksNothing)
        {
            yield return "It asks nothing, and so nothing is charged for the answer.";
        }

        foreach (var problem in prices.SelectMany(p => Problems(field, p)).Distinct(StringComparer.Ordinal))
        {
            yield return problem;
        }
    }

    private static IEnumerable<string> Problems(RuledField field, Price price)
    {
        if (!KindsOf(field.Level).Contains(price.Kind))
        {
            yield return field.Level == Level.Order
                ? "It is asked once per order, and so it is charged once per order, or as a share of the goods."
                : "It is asked of each one, and so it cannot be the price of the line.";
        }

        if (price.Choice is { } choice && !field.Rule.Choices.Any(c => c.Key == choice))
        {
            yield return $"There is no choice “{choice}” to be priced. Take the price out, or put the choice back.";
        }
        else if (!(price.Choice is null ? field.Rule.PricedBy : ByOfChoice(field.Rule)).Contains(price.By))
        {
            yield return $"{field.Type.Name} cannot be priced by the {Words(price.By)}. Choose another measure.";
        }

        if (price.WordsAreRuns && price.By != AnswerMeasure.Word)
        {
            yield return "Only a price by the word says how words are counted.";
        }

        if (price.Kind == PriceKind.Percent && price.By != AnswerMeasure.Answer)
        {
            yield return "A share of the price is taken once, not by the piece.";
        }

        if (price.Included < 0 || (price.Included > 0 && price.By is AnswerMeasure.Answer or AnswerMeasure.Amount))
        {
            yield return "What is included is counted in letters, characters, words or pieces. Choose one of them, or include nothing.";
        }

        if (price.TaxPpm is < 0 or > TaxRules.MostPpm)
        {
            yield return "A tax rate is from 0 to 100 %.";
        }

        if (price.UntaxedAs is { } why && (price.TaxPpm != 0 || !TaxRate.Untaxed.Contains(why)))
        {
            yield return "Only a rate of 0 % can be exempt from the tax or outside it.";
        }

        foreach (var problem in price.For.Select(static f => f.Tariff).Prepend(price.Tariff).SelectMany(t => Problems(price, t)))
        {
            yield return problem;
        }

        if (price.For.Any(static f => f.Group is null && f.Variant is null))
        {
            yield return "Say for whom the other amount is: a shopper group or a variant.";
        }
    }

    private static IEnumerable<string> Problems(Price price, Tariff tariff)
    {
        if (
            tariff.Bands.Select(static b => b.Minor).Append(tariff.Minor).Any(static m => Math.Abs(m) > Tariff.MostMinor)
            || tariff.CeilingMinor is < 0 or > Tariff.MostMinor
        )
        {
            yield return "An amount is too great to be charged. Make it smaller.";
        }

        if (Math.Abs(tariff.Ppm) > Tariff.MostPpm)
        {
            yield return "A share is at most ten times the price.";
        }

        if (price.Kind == PriceKind.ForTheGoods && tariff.Bands.Select(static b => b.Minor).Append(tariff.Minor).Any(static m => m < 0))
        {
            yield return "The price of the line cannot be below nothing.";
        }

        if (
            tariff.Bands.Length > MostBands
            || tariff.Bands.Any(static b => b.Over is < 0 or > Tariff.MostMinor)
            || tariff.Bands.Zip(tariff.Bands.Skip(1)).Any(static p => p.First.Over >= p.Second.Over)
        )
        {
            yield return "The bands do not rise. Each begins over a greater number than the one before.";
        }
    }

    /// <summary>What the answers of a level can do to the price.</summary>
    public static IEnumerable<PriceKind> KindsOf(Level level) =>
        level switch
        {
            Level.Order => [PriceKind.OncePerOrder, PriceKind.Percent],
            Level.Line => Enum.GetValues<PriceKind>(),
            _ => [PriceKind.PerUnit, PriceKind.Percent, PriceKind.OncePerLine, PriceKind.OncePerOrder],
        };

    /// <summary>What of one choice of an answer an amount can be taken times: how many of it, where each is counted.</summary>
    public static IEnumerable<AnswerMeasure> ByOfChoice(AnswerRule rule) =>
        rule.Choices.IsEmpty ? []
        : rule.Fact == FactKind.Number ? [AnswerMeasure.Answer, AnswerMeasure.Count]
        : [AnswerMeasure.Answer];

    private static string Words(AnswerMeasure by) => by.ToString().ToLowerInvariant();
}
