using System.Collections.Immutable;
using Sexton.Core.Catalogue;
using Sexton.Core.Facts;
using Sexton.Core.Values;

namespace Sexton.Core.Conditions;

/// <summary>Reads one fact. A fact of another kind than asked for reads as nothing.</summary>
internal abstract class BoundFact
{
    public virtual string? Text(IFacts facts, Place place) => null;

    public virtual decimal? Number(IFacts facts, Place place) => null;

    public virtual bool? Truth(IFacts facts, Place place) => null;

    public virtual ImmutableArray<string>? List(IFacts facts, Place place) => null;

    public abstract bool IsGiven(IFacts facts, Place place);

    /// <summary>Whether it is known with the goods of the line alone.</summary>
    public virtual bool IsOfGoods => false;
}

/// <summary>The answer of a field at the place at hand, or at the line or order around it.</summary>
internal sealed class AnswerFact(AnswerSource of) : BoundFact
{
    public AnswerSource Field => of;

    public override string? Text(IFacts facts, Place place) => Seen(facts, place)?.Text;

    public override decimal? Number(IFacts facts, Place place) => Seen(facts, place)?.Number;

    public override bool? Truth(IFacts facts, Place place) => Seen(facts, place)?.Truth;

    public override ImmutableArray<string>? List(IFacts facts, Place place) => Seen(facts, place)?.Picks;

    public override bool IsGiven(IFacts facts, Place place) => facts.ValueOf(of, place) is not null;

    private AnswerValue? Seen(IFacts facts, Place place) => facts.ValueOf(of, place) is { } value ? of.FactOf(value) : null;
}

/// <summary>The answer of a field that is not asked by this register: switched off, retired, or left out of a preview.</summary>
internal sealed class AbsentFact : BoundFact
{
    public static readonly AbsentFact Instance = new();

    public override bool IsOfGoods => true;

    public override bool IsGiven(IFacts facts, Place place) => false;
}

/// <summary>A typed attribute of the line's variant or product.</summary>
internal sealed class AttributeFact(string name) : BoundFact
{
    public override bool IsOfGoods => true;

    public override string? Text(IFacts facts, Place place) => Value(facts, place)?.Text;

    public override decimal? Number(IFacts facts, Place place) => Value(facts, place)?.Number;

    public override bool? Truth(IFacts facts, Place place) => Value(facts, place)?.Truth;

    public override bool IsGiven(IFacts facts, Place place) => Value(facts, place) is not null;

    private AnswerValue? Value(IFacts facts, Place place) => facts.Goods(place.Line).Attribute(name)?.Value;
}

/// <summary>A fact of the shop that is one text.</summary>
internal sealed class TextFact(Func<IFacts, int, string?> read, bool isOfGoods = false) : BoundFact
{
    public override bool IsOfGoods => isOfGoods;

    public override string? Text(IFacts facts, Place place) => read(facts, place.Line);

    public override bool IsGiven(IFacts facts, Place place) => read(facts, place.Line) is { Length: > 0 };
}

/// <summary>A fact of the shop that is a number.</summary>
internal sealed class NumberFact(Func<IFacts, int, decimal> read) : BoundFact
{
    public override decimal? Number(IFacts facts, Place place) => read(facts, place.Line);

    public override bool IsGiven(IFacts facts, Place place) => true;
}

/// <summary>Words by which the line's product is found: its categories, or its tags.</summary>
internal sealed class ProductWordsFact(Func<Product, ImmutableArray<string>> read) : BoundFact
{
    public override bool IsOfGoods => true;

    public override ImmutableArray<string>? List(IFacts facts, Place place) => read(facts.Goods(place.Line).Product);

    public override string? Text(IFacts facts, Place place) =>
        read(facts.Goods(place.Line).Product) is { IsEmpty: false } words ? string.Join(", ", words) : null;

    public override bool IsGiven(IFacts facts, Place place) => !read(facts.Goods(place.Line).Product).IsEmpty;
}

/// <summary>Whether the line's product is sent.</summary>
internal sealed class ShipsFact : BoundFact
{
    public override bool IsOfGoods => true;

    public override bool? Truth(IFacts facts, Place place) => facts.Goods(place.Line).Product.Ships;

    public override bool IsGiven(IFacts facts, Place place) => true;
}
