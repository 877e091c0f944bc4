using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json.Serialization;
using Sexton.Core.Sentences;
using Sexton.Core.Values;

namespace Sexton.Core.Cart;

/// <summary>What a shopper has in the cart, and what was answered so far.</summary>
public sealed record CartContent
{
    /// <summary>An empty cart.</summary>
    public static readonly CartContent Empty = new();

    /// <summary>The greatest number of lines.</summary>
    public const int MostLines = 100;

    /// <summary>The greatest quantity of a line.</summary>
    public const int MostOfALine = 999;

    /// <summary>The greatest quantity of a line of which each one is asked for.</summary>
    public const int MostUnits = 60;

    /// <summary>The greatest quantity of a line of which each one is asked for, as far as its product and questions say less.</summary>
    /// <param name="said">What they say, or null.</param>
    public static int MostEachOf(int? said) => Math.Min(said ?? MostUnits, MostUnits);

    /// <summary>The greatest number of answers of one place: of the order, a line, or a unit.</summary>
    public const int MostAnswers = 500;

    /// <summary>The language in which the shopper is asked (BCP 47).</summary>
    public string Language { get; init; } = LanguageMap.Fallback;

    /// <summary>The key of the shopper's group; "" for that of everybody who is not known.</summary>
    public string Group { get; init; } = "";

    /// <summary>The country of the shopper as far as known (ISO 3166-1 alpha-2); "" for that of the shop. A delivery address says it better.</summary>
    public string Country { get; init; } = "";

    /// <summary>The code of a coupon; "" for none.</summary>
    public string Coupon { get; init; } = "";

    /// <summary>The lines, in the order in which they were added.</summary>
    public ImmutableArray<CartLine> Lines { get; init; } = [];

    /// <summary>The answers of the order, by field key, as entered. Answers of fields no longer asked stay here.</summary>
    public AnswerSet Answers { get; init; } = AnswerSet.Empty;

    /// <summary>The keys under which lines were added of late, so that the same form sent twice adds once.</summary>
    public ImmutableArray<string> Added { get; init; } = [];

    /// <summary>The cart with a key remembered; null remembers nothing.</summary>
    public CartContent Remember(string? key) => key is null ? this : this with { Added = [.. Added.Append(key).TakeLast(20)] };

    /// <summary>
    /// The cart with a line added. It joins a line of the same product and variant whose answers, unasked ones too, are all equal, unless
    /// each one is asked for; otherwise it becomes a new last line.
    /// </summary>
    /// <param name="line">The line.</param>
    /// <param name="canonical">Gives the answers of a line as they are compared: however one was written, what it says counts.</param>
    /// <param name="alone">Whether it joins no other, as a line with files.</param>
    /// <exception cref="CartException">The quantity is out of range, or the cart is full.</exception>
    public CartContent Add(CartLine line, Func<CartLine, AnswerSet> canonical, bool alone = false)
    {
        CheckQuantity(line);
        var answers = canonical(line);
        for (var i = 0; i < Lines.Length && !alone; i++)
        {
            if (
                Lines[i].ProductCode == line.ProductCode
                && Lines[i].VariantCode == line.VariantCode
                && Lines[i].Units.IsEmpty
                && line.Units.IsEmpty
                && canonical(Lines[i]).Equals(answers)
            )
            {
                var together = Lines[i] with { Quantity = Lines[i].Quantity + line.Quantity };
                CheckQuantity(together);
                return this with { Lines = Lines.SetItem(i, together) };
            }
        }

        return Lines.Length < MostLines ? this with { Lines = Lines.Add(line) } : throw new CartException("cart_full", Whole(MostLines));
    }

    /// <summary>A line.</summary>
    /// <exception cref="CartException">There is no such line.</exception>
    public CartLine Find(string id) => Lines.FirstOrDefault(l => l.Id == id) ?? throw new CartException("line_gone");

    /// <summary>The cart with a line replaced by one of the same id; a quantity of 0 takes the line out.</summary>
    /// <exception cref="CartException">There is no such line, or the quantity is out of range.</exception>
    public CartContent Change(CartLine line)
    {
        var index = Lines.IndexOf(Find(line.Id));
        if (line.Quantity == 0)
        {
            return this with { Lines = Lines.RemoveAt(index) };
        }

        CheckQuantity(line);
        return this with { Lines = Lines.SetItem(index, line) };
    }

    /// <summary>The cart with answers of the order replaced; one that is blank is gone, except where a default would come back in its place.</summary>
    /// <param name="answers">The answers given; others stay as they are.</param>
    /// <param name="hasDefault">Whether a field has a default.</param>
    public CartContent Answer(AnswerSet answers, Func<string, bool> hasDefault) =>
        this with
        {
            Answers = Answers.With(answers, hasDefault),
        };

    /// <summary>
    /// The cart with answers of its lines and units replaced; others stay as they are. A line or unit that was taken out meanwhile takes its answers
    /// with it.
    /// </summary>
    /// <param name="lines">The answers, line by line.</param>
    /// <param name="hasDefault">Whether a field has a default.</param>
    public CartContent Answer(IReadOnlyList<LineAnswers> lines, Func<string, bool> hasDefault) =>
        this with
        {
            Lines =
            [
                .. Lines.Select(line => lines.Where(l => l?.Id == line.Id).Aggregate(line, (all, given) => all.Answer(given, hasDefault))),
            ],
        };

    /// <summary>
    /// Refuses what no form of ours sends: lines or units that are none, ids that were not made here, more of anything than a cart holds, and texts that
    /// cannot be kept.
    /// </summary>
    /// <exception cref="CartException">Something is not as it must be.</exception>
    public void CheckShape()
    {
        if (Lines.IsDefault || Lines.Length > MostLines || Added.IsDefault)
        {
            throw new CartException("cart_full", Whole(MostLines));
        }

        if (!LanguageTag.IsWellFormed(Language))
        {
            throw new CartException("language_tag");
        }

        if (Lines.Any(static l => l is null) || Lines.DistinctBy(static l => l.Id, StringComparer.Ordinal).Count() < Lines.Length)
        {
            throw new CartException("line_twice");
        }

        CheckShape(Answers);
        foreach (var line in Lines)
        {
            line.CheckShape();
        }
    }

    /// <summary>Refuses answers that cannot be kept: too many, or a text that is none.</summary>
    /// <exception cref="CartException">Something is not as it must be.</exception>
    internal static void CheckShape(AnswerSet answers)
    {
        if (answers.Count > MostAnswers)
        {
            throw new CartException("too_many_answers", Whole(answers.Count), Whole(MostAnswers));
        }

        foreach (ref readonly var answer in answers.Sorted)
        {
            if (!answer.Value.CanBeKept)
            {
                throw new CartException("answer_character", answer.Key);
            }
        }
    }

    internal static string Whole(int number) => number.ToString(CultureInfo.InvariantCulture);

    private static void CheckQuantity(CartLine line)
    {
        var most = line.MostEach ?? (line.Units.IsEmpty ? MostOfALine : MostUnits);
        if (line.Quantity < 1 || line.Quantity > most)
        {
            throw new CartException("quantity", Whole(most));
        }
    }
}

/// <summary>Answers of one line and of its units, as one step of the way gives them.</summary>
/// <param name="Id">The id of the line.</param>
/// <param name="Answers">The answers of the line, by field; others stay as they are.</param>
/// <param name="Units">The answers of its units.</param>
public sealed record LineAnswers(string Id, AnswerSet Answers, ImmutableArray<CartUnit> Units)
{
    internal void CheckShape()
    {
        if (Answers is null || Units.IsDefault || Units.Any(static u => u?.Answers is null))
        {
            throw new CartException("unit_unknown");
        }
    }
}

/// <summary>A line of the cart.</summary>
/// <param name="Id">The stable id of the line.</param>
/// <param name="ProductCode">The external code of the product.</param>
/// <param name="Quantity">How many; from 1 to <see cref="CartContent.MostOfALine"/>.</param>
/// <param name="Answers">The answers of the line, by field key, as entered.</param>
public sealed record CartLine(string Id, string ProductCode, int Quantity, AnswerSet Answers)
{
    /// <summary>The external code of the variant, or null.</summary>
    public string? VariantCode { get; init; }

    /// <summary>Each one of the quantity, where each one is asked for; else empty.</summary>
    public ImmutableArray<CartUnit> Units { get; init; } = [];

    /// <summary>How many numbers were ever given to units of this line; a further unit gets the next one.</summary>
    public int UnitsGiven { get; init; }

    /// <summary>Its greatest quantity where each one of it is asked for; null where none is. Found out with each look at the register and never kept.</summary>
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

/// <summary>One of a line's quantity.</summary>
/// <param name="Id">Its stable id within the line: "u" and its number.</param>
/// <param name="Answers">Its answers, by field key, as entered.</param>
public sealed record CartUnit(string Id, AnswerSet Answers)
{
    /// <summary>The greatest number that is given out.</summary>
    public const int GreatestNumber = 99_999;

    /// <summary>Its number in the line, from 1, which never changes; what is displayed is its ordinal among those there are. 0 where the id is none.</summary>
    [JsonIgnore]
    public int Number =>
        Id is ['u', >= '1' and <= '9', ..] and { Length: <= 6 }
        && int.TryParse(Id.AsSpan(1), NumberStyles.None, CultureInfo.InvariantCulture, out var number)
            ? number
            : 0;

    /// <summary>A unit without answers.</summary>
    /// <param name="number">Its number.</param>
    public static CartUnit At(int number) => new(string.Create(CultureInfo.InvariantCulture, $"u{number}"), AnswerSet.Empty);
}

/// <summary>A change to a cart that cannot be made.</summary>
/// <param name="sentence">The key of the sentence that says what is wrong and how to mend it, without "problem.".</param>
/// <param name="parts">What the sentence is filled in with.</param>
public sealed class CartException(string sentence, params string[] parts)
    : Exception(Wording.Usual.Say("problem." + sentence, LanguageMap.Fallback, parts))
{
    /// <summary>The key of its sentence, without "problem.".</summary>
    public string Sentence => sentence;

    /// <summary>What the sentence is filled in with.</summary>
    public IReadOnlyList<string> Parts => parts;
}
