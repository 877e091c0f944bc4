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

    /// <summary>The language in which the shopper is asked (BCP 47).</summary>
    public string Language { get; init; } = LanguageMap.Fallback;

    /// <summary>The lines, in the order in which they were added.</summary>
    public ImmutableArray<CartLine> Lines { get; init; } = [];

    /// <summary>The answers of the order, by field key, as entered. Answers of fields no longer asked stay here.</summary>
    public ImmutableSortedDictionary<string, AnswerValue> Answers { get; init; } = NoAnswers;

    /// <summary>No answers at all.</summary>
    public static ImmutableSortedDictionary<string, AnswerValue> NoAnswers => ImmutableSortedDictionary<string, AnswerValue>.Empty.WithComparers(StringComparer.Ordinal);

    /// <summary>
    /// The cart with a line added. It joins a line of the same product whose answers, unasked ones too, are all equal;
    /// otherwise it becomes a new last line.
    /// </summary>
    /// <exception cref="CartException">The product is not known here, the quantity is out of range, or the cart is full.</exception>
    public CartContent Add(CartLine line)
    {
        CheckQuantity(line.Quantity);
        for (var i = 0; i < Lines.Length; i++)
        {
            if (string.Equals(Lines[i].ProductCode, line.ProductCode, StringComparison.Ordinal) && Lines[i].Answers.SequenceEqual(line.Answers))
            {
                var together = Lines[i].Quantity + line.Quantity;
                CheckQuantity(together);
                return this with { Lines = Lines.SetItem(i, Lines[i] with { Quantity = together }) };
            }
        }

        return Lines.Length < MostLines
            ? this with { Lines = Lines.Add(line) }
            : throw new CartException($"A cart holds {MostLines} different lines. Order these first.");
    }

    /// <summary>The cart with a line's quantity and answers replaced; a quantity of 0 takes the line out.</summary>
    /// <exception cref="CartException">There is no such line, or the quantity is out of range.</exception>
    public CartContent Change(string lineId, int quantity, ImmutableSortedDictionary<string, AnswerValue> answers)
    {
        var index = Lines.IndexOf(Lines.FirstOrDefault(l => string.Equals(l.Id, lineId, StringComparison.Ordinal))
            ?? throw new CartException("That line is no longer in the cart. Reload the page."));
        if (quantity == 0)
        {
            return this with { Lines = Lines.RemoveAt(index) };
        }

        CheckQuantity(quantity);
        return this with { Lines = Lines.SetItem(index, Lines[index] with { Quantity = quantity, Answers = answers }) };
    }

    private static void CheckQuantity(int quantity)
    {
        if (quantity is < 1 or > MostOfALine)
        {
            throw new CartException($"Give a quantity from 1 to {MostOfALine}.");
        }
    }
}

/// <summary>A line of the cart.</summary>
/// <param name="Id">The stable id of the line.</param>
/// <param name="ProductCode">The external code of the product.</param>
/// <param name="Quantity">How many; from 1 to <see cref="CartContent.MostOfALine"/>.</param>
/// <param name="Answers">The answers of the line, by field key, as entered.</param>
public sealed record CartLine(string Id, string ProductCode, int Quantity, ImmutableSortedDictionary<string, AnswerValue> Answers);

/// <summary>A change to a cart that cannot be made.</summary>
/// <param name="message">What is wrong and how to mend it, for the shopper.</param>
public sealed class CartException(string message) : Exception(message);
