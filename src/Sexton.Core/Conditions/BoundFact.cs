using System.Collections.Immutable;
using Sexton.Core.Asking;
using Sexton.Core.Register;

namespace Sexton.Core.Conditions;

/// <summary>Reads one fact. A fact of another kind than asked for reads as nothing.</summary>
internal abstract class BoundFact
{
    public virtual string? Text(Evaluation evaluation, Place place) => null;

    public virtual decimal? Number(Evaluation evaluation, Place place) => null;

    public virtual bool? Truth(Evaluation evaluation, Place place) => null;

    public virtual ImmutableArray<string>? List(Evaluation evaluation, Place place) => null;

    public abstract bool IsGiven(Evaluation evaluation, Place place);

    /// <summary>Whether it is known with the goods of the line alone.</summary>
    public virtual bool IsOfGoods => false;
}

/// <summary>The answer of a field at the place at hand, or at the line or order around it.</summary>
internal sealed class AnswerFact(PlannedField of) : BoundFact
{
    public PlannedField Field => of;

    public override string? Text(Evaluation evaluation, Place place) => Seen(evaluation, place)?.Text;

    public override decimal? Number(Evaluation evaluation, Place place) => Seen(evaluation, place)?.Number;

    public override bool? Truth(Evaluation evaluation, Place place) => Seen(evaluation, place)?.Truth;

    public override ImmutableArray<string>? List(Evaluation evaluation, Place place) => Seen(evaluation, place)?.Picks;

    public override bool IsGiven(Evaluation evaluation, Place place) => evaluation.ValueOf(of, place) is not null;

    private AnswerValue? Seen(Evaluation evaluation, Place place) =>
        evaluation.ValueOf(of, place) is { } value ? of.Rule.FactOf(value) : null;
}

/// <summary>The answer of a field that is not asked by this register: switched off, retired, or left out of a preview.</summary>
internal sealed class AbsentFact : BoundFact
{
    public static readonly AbsentFact Instance = new();

    public override bool IsOfGoods => true;

    public override bool IsGiven(Evaluation evaluation, Place place) => false;
}

/// <summary>A typed attribute of the line's variant or product.</summary>
internal sealed class AttributeFact(string name) : BoundFact
{
    public override bool IsOfGoods => true;

    public override string? Text(Evaluation evaluation, Place place) => Value(evaluation, place)?.Text;

    public override decimal? Number(Evaluation evaluation, Place place) => Value(evaluation, place)?.Number;

    public override bool? Truth(Evaluation evaluation, Place place) => Value(evaluation, place)?.Truth;

    public override bool IsGiven(Evaluation evaluation, Place place) => Value(evaluation, place) is not null;

    private AnswerValue? Value(Evaluation evaluation, Place place) => evaluation.Goods(place.Line).Attribute(name)?.Value;
}

/// <summary>A fact of the shop that is one text.</summary>
internal sealed class TextFact(Func<Evaluation, int, string?> read, bool isOfGoods = false) : BoundFact
{
    public override bool IsOfGoods => isOfGoods;

    public override string? Text(Evaluation evaluation, Place place) => read(evaluation, place.Line);

    public override bool IsGiven(Evaluation evaluation, Place place) => read(evaluation, place.Line) is { Length: > 0 };
}

/// <summary>A fact of the shop that is a number.</summary>
internal sealed class NumberFact(Func<Evaluation, int, decimal> read) : BoundFact
{
    public override decimal? Number(Evaluation evaluation, Place place) => read(evaluation, place.Line);

    public override bool IsGiven(Evaluation evaluation, Place place) => true;
}

/// <summary>The tags of the line's product.</summary>
internal sealed class TagsFact : BoundFact
{
    public override bool IsOfGoods => true;

    public override ImmutableArray<string>? List(Evaluation evaluation, Place place) => evaluation.Goods(place.Line).Product.Tags;

    public override bool IsGiven(Evaluation evaluation, Place place) => !evaluation.Goods(place.Line).Product.Tags.IsEmpty;
}

/// <summary>Whether the line's product is sent.</summary>
internal sealed class ShipsFact : BoundFact
{
    public override bool IsOfGoods => true;

    public override bool? Truth(Evaluation evaluation, Place place) => evaluation.Goods(place.Line).Product.Ships;

    public override bool IsGiven(Evaluation evaluation, Place place) => true;
}
