using System.Text;

namespace Sexton.Destinations.Papers.Reading;

/// <summary>A rectangle on a page, in points from its upper left corner.</summary>
/// <param name="Page">The page, from 0.</param>
/// <param name="X">Its left side.</param>
/// <param name="Y">Its upper side.</param>
/// <param name="Width">Its width.</param>
/// <param name="Height">Its height.</param>
public sealed record PageSpot(int Page, double X, double Y, double Width, double Height)
{
    /// <summary>Whether another stands on the same line, and begins where this one ends or at most a blank behind it.</summary>
    internal bool IsBeside(PageSpot next) =>
        Page == next.Page
        && Math.Min(Y + Height, next.Y + next.Height) - Math.Max(Y, next.Y) > Math.Min(Height, next.Height) / 2
        && next.X - (X + Width) < Math.Max(Height, next.Height) / 2;

    /// <summary>The rectangle around both.</summary>
    internal PageSpot With(PageSpot other)
    {
        var (x, y) = (Math.Min(X, other.X), Math.Min(Y, other.Y));
        return this with
        {
            X = x,
            Y = y,
            Width = Math.Max(X + Width, other.X + other.Width) - x,
            Height = Math.Max(Y + Height, other.Y + other.Height) - y,
        };
    }
}

/// <summary>The text of a marked content of a page (ISO 32000-1, 14.6).</summary>
internal sealed class MarkedText
{
    /// <summary>Its text, in the order in which it is read.</summary>
    public StringBuilder Text { get; } = new();

    /// <summary>Where it stands: a rectangle for each of its pieces.</summary>
    public List<PageSpot> Spots { get; } = [];

    /// <summary>Where it stands: a rectangle for each line, in which its pieces stand side by side (where both directions occur, each word is one).</summary>
    public IEnumerable<PageSpot> Lines()
    {
        var lines = new List<PageSpot>();
        foreach (var spot in Spots.OrderBy(static s => s.X))
        {
            var before = lines.FindIndex(line => line.IsBeside(spot));
            if (before < 0)
            {
                lines.Add(spot);
            }
            else
            {
                lines[before] = lines[before].With(spot);
            }
        }

        return lines.OrderBy(static l => l.Page).ThenBy(static l => l.Y);
    }

    /// <summary>How many of its characters have no letter in the font, and are printed as a box.</summary>
    public int Boxes { get; set; }

    /// <summary>How many of its letters nothing says the character of.</summary>
    public int Unreadable { get; set; }
}
