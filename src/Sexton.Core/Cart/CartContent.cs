using System.Collections.Immutable;
using System.Globalization;
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

    /// <summary>The cart with a line replaced by one of the same id.</summary>
    /// <exception cref="CartException">There is no such line, or the quantity is out of range.</exception>
    public CartContent Change(CartLine line)
    {
        CheckQuantity(line);
        return this with { Lines = Lines.SetItem(Lines.IndexOf(Find(line.Id)), line) };
    }

    /// <summary>The cart without a line. One that is gone already, as from another window, is out.</summary>
    /// <param name="id">The id of the line.</param>
    public CartContent TakeOut(string id) => this with { Lines = Lines.RemoveAll(l => l.Id == id) };

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
