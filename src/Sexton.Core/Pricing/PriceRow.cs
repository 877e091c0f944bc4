using Sexton.Core.Catalogue;
using Sexton.Core.Facts;
using Sexton.Core.Sentences;
using Sexton.Core.Types;

namespace Sexton.Core.Pricing;

/// <summary>What a row of prices is for.</summary>
public enum PriceRowKind
{
    /// <summary>The goods of a line.</summary>
    Goods,

    /// <summary>What an answer adds or takes off.</summary>
    Answer,

    /// <summary>A component that an answer uses up.</summary>
    Component,

    /// <summary>Lifts what would fall below zero.</summary>
    Floor,

    /// <summary>What a coupon takes off.</summary>
    Coupon,
}

/// <summary>
/// One row of the prices of a cart; the rows, and the tax where it comes on top, sum exactly to the total. Amounts are integer minor
/// units (ISO 4217).
/// </summary>
public struct PriceRow
{
    /// <summary>What it is for.</summary>
    public PriceRowKind Kind { get; internal init; }

    /// <summary>Where it belongs: to a line, a unit, or the order.</summary>
    public Place Place { get; internal init; }

    /// <summary>The id of the line, or null for the order.</summary>
    public string? LineId { get; internal init; }

    /// <summary>The id of the unit within its line, or null.</summary>
    public string? UnitId { get; internal init; }

    /// <summary>What the line is of, or the component; for the goods of a line and for components.</summary>
    public Goods Goods { get; internal init; }

    /// <summary>The field whose answer it is about, or null.</summary>
    public RuledField? Field { get; internal init; }

    /// <summary>The price that it comes from, or null.</summary>
    public BoundPrice? Price { get; internal init; }

    /// <summary>Of goods the field whose answer is their price and is not given yet: they cost nothing so far, and never what the catalogue says; else null.</summary>
    public PricedField? OpenBy { get; internal init; }

    /// <summary>The least that one of them can come to by that answer, in minor units; null where it is not known.</summary>
    public long? FromMinor { get; internal init; }

    /// <summary>The key of the choice that it prices, or whose component it is; null for the answer as a whole.</summary>
    public string? Choice { get; internal init; }

    /// <summary>The coupon, or null.</summary>
    public Coupon? Coupon { get; internal init; }

    /// <summary>Whether what is taken off has a row for each of several tax rates.</summary>
    internal bool IsOneOfSeveral { get; init; }

    /// <summary>How many.</summary>
    public int Quantity { get; internal init; }

    /// <summary>The amount for one; 0 where tax that the buyer owes was taken out of the sum and it does not share out evenly any more.</summary>
    public long UnitMinor { get; internal set; }

    /// <summary>The sum of the row: quantity times the amount for one.</summary>
    public long SumMinor { get; internal set; }

    /// <summary>The tax rate.</summary>
    public TaxRate Tax { get; internal set; }

    /// <summary>The tax rate, in parts per million.</summary>
    public readonly int TaxPpm => Tax.Ppm;

    /// <summary>Its share of the tax at this rate.</summary>
    public long TaxMinor { get; internal set; }

    /// <summary>What it is called.</summary>
    /// <param name="wording">What the shop says.</param>
    /// <param name="language">The language of the shopper.</param>
    public readonly string LabelIn(Wording wording, string language)
    {
        var bare = BareLabelIn(wording, language);
        return !IsOneOfSeveral
            ? bare
            : Tax.Category switch
            {
                TaxCategory.Exempt => wording.Say("price.on_exempt", language, bare),
                TaxCategory.Outside => wording.Say("price.on_outside", language, bare),
                TaxCategory.ReverseCharge => wording.Say("price.on_reverse_charge", language, bare),
                _ => wording.Say("price.on_taxed", language, bare, PriceWords.Share(TaxPpm, language)),
            };
    }

    private readonly string BareLabelIn(Wording wording, string language) =>
        Kind switch
        {
            PriceRowKind.Goods or PriceRowKind.Component => Goods.NameIn(language),
            PriceRowKind.Coupon => Coupon!.Name.In(language),
            PriceRowKind.Answer => Price!.LabelIn(language),
            _ => wording.Say("price.no_less_than_nothing", language),
        };
}
