using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Pricing;

/// <summary>A price bound to its field: works out what one answer comes to.</summary>
public sealed class BoundPrice
{
    private readonly AnswerCounter _counter;

    internal BoundPrice(PricedField field, Price price, BoundCondition? when) =>
        (Field, Price, When, _counter) = (field, price, when, new AnswerCounter(field, price.By, price.Choice, price.WordsAreRuns));

    /// <summary>The field whose answers it prices.</summary>
    public PricedField Field { get; }

    /// <summary>The price as defined.</summary>
    public Price Price { get; }

    /// <summary>The condition under which it is charged; null for always.</summary>
    public BoundCondition? When { get; }

    /// <summary>What its row is called: the price's own label, else the question, with the choice where it is about one.</summary>
    public string LabelIn(string language)
    {
        var question = Field.Label.In(language);
        return !Price.Label.IsEmpty ? Price.Label.In(language)
            : _counter.Choice is null ? question
            : $"{question}: {_counter.Choice.Label.In(language)}";
    }

    /// <summary>The tariff for a group of shoppers and a variant: the closest fit, the first of two equally close.</summary>
    public Tariff TariffOf(string group, string? variant)
    {
        var (tariff, closeness) = (Price.Tariff, 0);
        foreach (var other in Price.For)
        {
            if (
                other.Closeness > closeness
                && (other.Group is null || other.Group == group)
                && (other.Variant is null || other.Variant == variant)
            )
            {
                (tariff, closeness) = (other.Tariff, other.Closeness);
            }
        }

        return tariff;
    }

    /// <summary>Whether it is charged at a place, if it is answered.</summary>
    public bool Holds(IFacts facts, Place place) => When?.Holds(facts, place) != false;

    /// <summary>How many times an answer is priced, before what is included: 0 when it is not priced at all.</summary>
    internal decimal CountOf(AnswerValue value, IFacts facts) => _counter.CountOf(value, facts);

    /// <summary>What a count comes to, in minor units, rounded half away from zero; null when it is out of all range.</summary>
    /// <param name="tariff">The tariff that applies.</param>
    /// <param name="count">The count; above what is included.</param>
    /// <param name="included">How many of it, the first ones, are included: they cost nothing, and bands begin where they would without them.</param>
    /// <param name="currencyUnit">How many minor units make one unit of the currency.</param>
    internal long? AmountOf(Tariff tariff, decimal count, decimal included, decimal currencyUnit)
    {
        // Whole amounts, as nearly all are, are found without a fraction.
        if (Price.By == AnswerMeasure.Answer && tariff.CeilingMinor is null)
        {
            return tariff.Minor;
        }

        var exact = Price.By switch
        {
            AnswerMeasure.Answer => tariff.Minor,
            AnswerMeasure.Amount => count * currencyUnit,
            _ => Price.BandForAll ? InOneBand(tariff, count) : BandByBand(tariff, count, included),
        };
        if (tariff.CeilingMinor is { } ceiling && Math.Abs(exact) > ceiling)
        {
            exact = exact < 0 ? -ceiling : ceiling;
        }

        var rounded = decimal.Round(exact, 0, MidpointRounding.AwayFromZero);
        return Math.Abs(rounded) > CartPricing.MostMinor ? null : (long)rounded;
    }

    private static decimal InOneBand(Tariff tariff, decimal count)
    {
        var minor = tariff.Minor;
        foreach (var band in tariff.Bands)
        {
            minor = count > band.Over ? band.Minor : minor;
        }

        return minor;
    }

    // Each piece costs what the band says that it is in; what is included costs nothing, whatever band it is in.
    private static decimal BandByBand(Tariff tariff, decimal count, decimal included)
    {
        var (sum, from, minor) = (0m, included, tariff.Minor);
        foreach (var band in tariff.Bands)
        {
            if (band.Over > from)
            {
                var to = Math.Min(band.Over, count);
                sum += Math.Max(0, to - from) * minor;
                from = Math.Max(from, to);
            }

            minor = band.Minor;
            if (band.Over >= count)
            {
                return sum;
            }
        }

        return sum + (Math.Max(0, count - from) * minor);
    }
}
