using Sexton.Core.Catalogue;
using Sexton.Core.Values;

namespace Sexton.Core.Facts;

/// <summary>
/// What conditions, formulas, prices and item codes read. A cart under evaluation and an order that was placed both implement it, so that no order is ever
/// turned back into a cart.
/// </summary>
public interface IFacts
{
    /// <summary>The language of the shopper (BCP 47).</summary>
    string Language { get; }

    /// <summary>The key of the shopper's group.</summary>
    string Group { get; }

    /// <summary>The country of the shopper (ISO 3166-1 alpha-2).</summary>
    string Country { get; }

    /// <summary>The country of the shop (ISO 3166-1 alpha-2), whose telephone numbers are known without a code; "" where nothing is counted any more.</summary>
    string Home { get; }

    /// <summary>The day in the time zone of the shop, as ISO 8601 writes it.</summary>
    string Day { get; }

    /// <summary>What the goods cost by the catalogue, in units of the currency.</summary>
    decimal CartTotal { get; }

    /// <summary>How many pieces there are.</summary>
    decimal CartCount { get; }

    /// <summary>The number of lines, sold or not.</summary>
    int LineCount { get; }

    /// <summary>Whether a line is of something that is sold.</summary>
    /// <param name="line">Which line, from 0.</param>
    bool IsSold(int line);

    /// <summary>How many units a line has that each are asked.</summary>
    /// <param name="line">Which line, from 0.</param>
    int UnitsOf(int line);

    /// <summary>How many pieces a line has.</summary>
    /// <param name="line">Which line, from 0.</param>
    int QuantityOf(int line);

    /// <summary>What a line that is sold is of.</summary>
    /// <param name="line">Which line, from 0.</param>
    Goods Goods(int line);

    /// <summary>The id of the line at a place, or null for the order.</summary>
    string? LineIdAt(Place place);

    /// <summary>The id of the unit at a place, or null.</summary>
    string? UnitIdAt(Place place);

    /// <summary>Whether an answer must be given at a place and is not; never so of an order that was placed.</summary>
    bool Awaits(AnswerSource source, Place place);

    /// <summary>The canonical answer of a field at a place, or at the line or order around it; null when unasked, left empty or refused.</summary>
    AnswerValue? ValueOf(AnswerSource source, Place place);
}
