using System.Collections.Immutable;
using Sexton.Core.Register;

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
    /// <param name="alone">Whether it joins no other, as a line with files.</param>
    /// <exception cref="CartException">The quantity is out of range, or the cart is full.</exception>
    public CartContent Add(CartLine line, bool alone = false)
    {
        CheckQuantity(line);
        for (var i = 0; i < Lines.Length && !alone; i++)
        {
            if (Lines[i].ProductCode == line.ProductCode
                && Lines[i].VariantCode == line.VariantCode
                && Lines[i].Units.IsEmpty
                && line.Units.IsEmpty
                && Lines[i].Answers.Equals(line.Answers))
            {
                var together = Lines[i] with { Quantity = Lines[i].Quantity + line.Quantity };
                CheckQuantity(together);
                return this with { Lines = Lines.SetItem(i, together) };
            }
        }

        return Lines.Length < MostLines
            ? this with { Lines = Lines.Add(line) }
            : throw new CartException($"A cart holds {MostLines} different lines. Order these first.");
    }

    /// <summary>The cart with a line replaced by one of the same id; a quantity of 0 takes the line out.</summary>
    /// <exception cref="CartException">There is no such line, or the quantity is out of range.</exception>
    public CartContent Change(CartLine line)
    {
        var index = Lines.IndexOf(Lines.FirstOrDefault(l => l.Id == line.Id)
            ?? throw new CartException("That line is no longer in the cart. Reload the page."));
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
    public CartContent Answer(AnswerSet answers, Func<string, bool> hasDefault) => this with
    {
        Answers = answers.Aggregate(Answers, (all, given) => all.With(given.Key, given.Value.IsBlank && !hasDefault(given.Key) ? null : given.Value)),
    };

    private static void CheckQuantity(CartLine line)
    {
        var most = line.Units.IsEmpty ? MostOfALine : MostUnits;
        if (line.Quantity < 1 || line.Quantity > most)
        {
            throw new CartException($"Give a quantity from 1 to {most}.");
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

    /// <summary>
    /// The line with as many units as its quantity. New ones get ids that this line never had in this state; too many are refused,
    /// since only the shopper knows which go.
    /// </summary>
    /// <exception cref="CartException">There are more units than the quantity, or an id stands twice.</exception>
    public CartLine WithUnits()
    {
        var known = Units.Select(static u => u.Id).ToHashSet(StringComparer.Ordinal);
        if (known.Count < Units.Length)
        {
            throw new CartException("One of them stands there twice. Reload the page.");
        }

        if (Units.Length > Quantity)
        {
            throw new CartException("Say which of them go.");
        }

        var units = Units.ToBuilder();
        for (var n = 1; units.Count < Math.Min(Quantity, CartContent.MostUnits); n++)
        {
            var id = "u" + n.ToString(System.Globalization.CultureInfo.InvariantCulture);
            if (known.Add(id))
            {
                units.Add(new CartUnit(id, AnswerSet.Empty));
            }
        }

        return this with { Units = units.ToImmutable() };
    }

    /// <inheritdoc/>
    public bool Equals(CartLine? other) =>
        other is not null
        && Id == other.Id
        && ProductCode == other.ProductCode
        && VariantCode == other.VariantCode
        && Quantity == other.Quantity
        && Answers.Equals(other.Answers)
        && Units.SequenceEqual(other.Units);

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Id, ProductCode, VariantCode, Quantity, Answers, Units.Length);
}

/// <summary>One of a line's quantity.</summary>
/// <param name="Id">Its stable id within the line; its number is only displayed.</param>
/// <param name="Answers">Its answers, by field key, as entered.</param>
public sealed record CartUnit(string Id, AnswerSet Answers);

/// <summary>A change to a cart that cannot be made.</summary>
/// <param name="message">What is wrong and how to mend it, for the shopper.</param>
public sealed class CartException(string message) : Exception(message);
