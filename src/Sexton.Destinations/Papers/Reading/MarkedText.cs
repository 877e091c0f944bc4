using System.Text;

namespace Sexton.Destinations.Papers.Reading;

/// <summary>A rectangle on a page, in points from its upper left corner.</summary>
/// <param name="Page">The page, from 0.</param>
/// <param name="X">Its left side.</param>
/// <param name="Y">Its upper side.</param>
/// <param name="Width">Its width.</param>
/// <param name="Height">Its height.</param>
public sealed record PageSpot(int Page, double X, double Y, double Width, double Height);

/// <summary>The text of a marked content of a page (ISO 32000-1, 14.6).</summary>
internal sealed class MarkedText
{
    /// <summary>Its text, in the order in which it is read.</summary>
    public StringBuilder Text { get; } = new();

    /// <summary>Where it stands: a rectangle for each line.</summary>
    public List<PageSpot> Spots { get; } = [];

    /// <summary>How many of its characters have no letter in the font, and are printed as a box.</summary>
    public int Boxes { get; set; }

    /// <summary>How many of its letters nothing says the character of.</summary>
    public int Unreadable { get; set; }
}
