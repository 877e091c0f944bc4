using System.Collections.Immutable;
using System.Text.Json.Serialization;
using Sexton.Core.Values;

namespace Sexton.Core.Cart;

/// <summary>A line of the cart.</summary>
/// <param name="Id">The stable id of the line.</param>
/// <param name="ProductCode">The external code of the product.</param>
/// <param name="Quantity">How many; from 1 to <see cref="CartContent.MostOfALine"/>.</param>
/// <param name="Answers">The answers of the line, by field key, as entered.</param>
public sealed record CartLine(string Id, string ProductCode, int Quantity, AnswerSet Answers)
{
    /// <summary>The external code of the variant, or null.</summary>
    public string? VariantCode { get; init; }

    /// <summary>Each one of the quantity, where each one is asked for; else empty, but in a cart as it is kept, where they stay while none is asked.</summary>
    public ImmutableArray<CartUnit> Units { get; init; } = [];

    /// <summary>How many numbers were ever given to units of this line; a further unit gets the next one.</summary>
    public int UnitsGiven { get; init; }

    /// <summary>Its greatest quantity as the register has it, where it has units; null where it has none. Found out with each look at the register and never kept.</summary>
    [JsonIgnore]
    public int? MostEach { get; init; }

    /// <summary>
    /// The line with as many units as its quantity, in the order of their numbers, which never change. Numbers that were not given out before are given
    /// from the first that is free; too many units are refused, since only the shopper knows which go. Where more are wanted than can be asked for, none is added.
    /// </summary>
    /// <param name="mostEach">How many the product and its questions take; null for as many as a cart takes.</param>
    /// <exception cref="CartException">There are more units than the quantity, or an id stands twice.</exception>
    public CartLine WithUnits(int? mostEach = null)
    {
        var most = CartContent.MostEachOf(mostEach);
        CheckUnits();
        var taken = Units.Select(static u => u.Number).ToHashSet();
        if (Units.Length > Quantity)
        {
            throw new CartException("say_which_go");
        }

        var units = Units.ToBuilder();
        for (var number = UnitsGiven + 1; Quantity <= most && units.Count < Quantity; number++)
        {
            if (taken.Add(number))
            {
                units.Add(CartUnit.At(number));
            }
        }

        units.Sort(static (a, b) => a.Number.CompareTo(b.Number));
        return this with
        {
            Units = units.ToImmutable(),
            UnitsGiven = Math.Max(UnitsGiven, units.Count == 0 ? 0 : units[^1].Number),
            MostEach = most,
        };
    }

    /// <summary>
    /// The line while none of its units is asked: they stay with their answers, in case they are asked again. Of more units than the quantity the last go, since nobody
    /// is shown which there are.
    /// </summary>
    public CartLine WithDormantUnits() => this with { Units = [.. Units.Take(Quantity)], MostEach = CartContent.MostOfALine };

    /// <summary>
    /// The line with another quantity, as a form knew it that may be older than the line: who is said to go goes, whoever came meanwhile stays, and one
    /// that the form has answers of stands where there is room.
    /// </summary>
    /// <param name="quantity">How many.</param>
    /// <param name="gone">The ids of the units that go.</param>
    /// <param name="given">What the form has answers of.</param>
    public CartLine Resize(int quantity, IReadOnlyCollection<string> gone, LineAnswers given)
    {
        given.CheckShape();
        var left = Units.Where(u => !gone.Contains(u.Id)).ToList();
        var others = given.Units.Where(a => !gone.Contains(a.Id) && !Units.Any(u => u.Id == a.Id));
        return this with
        {
            Quantity = quantity,
            Units = [.. left, .. others.Take(Math.Max(0, quantity - left.Count)).Select(static a => a with { Answers = AnswerSet.Empty })],
        };
    }

    /// <summary>The line with answers of its own and of its units replaced; others stay as they are. A unit that is not there is passed over.</summary>
    /// <param name="given">The answers.</param>
    /// <param name="hasDefault">Whether a field has a default.</param>
    public CartLine Answer(LineAnswers given, Func<string, bool> hasDefault)
    {
        given.CheckShape();
        return this with
        {
            Answers = Answers.With(given.Answers, hasDefault),
            Units =
            [
                .. Units.Select(u =>
                    given
                        .Units.Where(g => g.Id == u.Id)
                        .Aggregate(u, (one, g) => one with { Answers = one.Answers.With(g.Answers, hasDefault) })
                ),
            ],
        };
    }

    internal void CheckShape()
    {
        if (
            Id is null or { Length: > LongestId }
            || ProductCode is null
            || Answers is null
            || UnitsGiven is < 0 or > CartUnit.GreatestNumber
        )
        {
            throw new CartException("line_wrong");
        }

        if (Quantity is < 0 or > CartContent.MostOfALine)
        {
            throw new CartException("quantity", CartContent.Whole(CartContent.MostOfALine));
        }

        CheckUnits();
        CartContent.CheckShape(Answers);
        foreach (var unit in Units)
        {
            CartContent.CheckShape(unit.Answers);
        }
    }

    // Ids of units are made here and come back; anything else would end up in keys of the database.
    private void CheckUnits()
    {
        if (Units.IsDefault || Units.Any(static u => u?.Answers is null || u.Number == 0))
        {
            throw new CartException("unit_unknown");
        }

        if (Units.Length > CartContent.MostUnits || Units.DistinctBy(static u => u.Id, StringComparer.Ordinal).Count() < Units.Length)
        {
            throw new CartException("unit_twice");
        }
    }

    private const int LongestId = 40;

    /// <inheritdoc/>
    public bool Equals(CartLine? other) =>
        other is not null
        && Id == other.Id
        && ProductCode == other.ProductCode
        && VariantCode == other.VariantCode
        && Quantity == other.Quantity
        && UnitsGiven == other.UnitsGiven
        && Answers.Equals(other.Answers)
        && Units.SequenceEqual(other.Units);

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Id, ProductCode, VariantCode, Quantity, Answers, Units.Length);
}
