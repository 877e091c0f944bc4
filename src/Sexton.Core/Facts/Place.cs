using System.Runtime.InteropServices;

namespace Sexton.Core.Facts;

/// <summary>Where an answer stands and a condition is asked: of the whole order (both -1), of a line, or of a unit of a line.</summary>
/// <param name="Line">Which line, from 0, or -1.</param>
/// <param name="Unit">Which unit within its line, from 0, or -1.</param>
[StructLayout(LayoutKind.Auto)]
public readonly record struct Place(int Line, int Unit)
{
    /// <summary>The whole order.</summary>
    public static readonly Place Order = new(-1, -1);

    /// <summary>A line as a whole.</summary>
    public static Place OfLine(int line) => new(line, -1);

    /// <summary>How often something is answered that is answered there.</summary>
    public Level Level =>
        Line < 0 ? Level.Order
        : Unit < 0 ? Level.Line
        : Level.Unit;
}
