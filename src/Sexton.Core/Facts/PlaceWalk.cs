using System.Runtime.InteropServices;

namespace Sexton.Core.Facts;

/// <summary>
/// Walks over the lines of what is sold, or over their units, in the order of the cart. The one walk that asking, conditions, formulas, prices and components
/// share; it allocates nothing.
/// </summary>
/// <example><code>foreach (var place in facts.PlacesOf(Level.Unit)) { … }</code></example>
[StructLayout(LayoutKind.Auto)]
public struct PlaceWalk
{
    private readonly IFacts _facts;
    private readonly Level _level;
    private readonly int _end;
    private int _line;
    private int _unit;
    private int _units;

    internal PlaceWalk(IFacts facts, Level level, int from, int to) => (_facts, _level, _line, _end) = (facts, level, from - 1, to);

    /// <summary>The place that was reached.</summary>
    public readonly Place Current => new(_line, _level == Level.Unit ? _unit : -1);

    /// <summary>This very walk: it can be gone through once.</summary>
    public readonly PlaceWalk GetEnumerator() => this;

    /// <summary>Goes on to the next place; false at the end.</summary>
    public bool MoveNext()
    {
        if (++_unit < _units)
        {
            return true;
        }

        while (++_line < _end)
        {
            if (_facts.IsSold(_line))
            {
                (_unit, _units) = (0, _level == Level.Unit ? _facts.UnitsOf(_line) : 1);
                if (_units > 0)
                {
                    return true;
                }
            }
        }

        return false;
    }
}

/// <summary>Begins walks over the places of a cart or an order.</summary>
public static class PlaceWalks
{
    /// <summary>The places of a level in all lines; for the order that one place of its own is not among them.</summary>
    /// <param name="facts">The cart or the order.</param>
    /// <param name="level">Lines or units.</param>
    public static PlaceWalk PlacesOf(this IFacts facts, Level level) => new(facts, level, 0, facts.LineCount);

    /// <summary>The places of a level in one line.</summary>
    /// <param name="facts">The cart or the order.</param>
    /// <param name="level">The line itself, or its units.</param>
    /// <param name="line">Which line, from 0.</param>
    public static PlaceWalk PlacesOf(this IFacts facts, Level level, int line) => new(facts, level, line, line + 1);

    /// <summary>All places: each line followed by its units, and the order at the end.</summary>
    /// <param name="facts">The cart or the order.</param>
    public static IEnumerable<Place> Places(this IFacts facts)
    {
        foreach (var line in facts.PlacesOf(Level.Line))
        {
            yield return line;
            foreach (var unit in facts.PlacesOf(Level.Unit, line.Line))
            {
                yield return unit;
            }
        }

        yield return Place.Order;
    }

    /// <summary>The places that something counted "over lines" or "over units" is counted over, seen from a place: the units of the line at hand, or else all.</summary>
    /// <param name="facts">The cart or the order.</param>
    /// <param name="over">Lines or units.</param>
    /// <param name="from">The place at hand.</param>
    public static PlaceWalk PlacesOver(this IFacts facts, Level over, Place from) =>
        over == Level.Unit && from.Line >= 0 ? facts.PlacesOf(over, from.Line) : facts.PlacesOf(over);
}
