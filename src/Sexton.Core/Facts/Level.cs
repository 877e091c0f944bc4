namespace Sexton.Core.Facts;

/// <summary>How often a field is answered ("asked per"), from the widest to the narrowest.</summary>
public enum Level
{
    /// <summary>Once for the whole order.</summary>
    Order,

    /// <summary>Once for every line of the cart.</summary>
    Line,

    /// <summary>Once for each one of a line's quantity: each seat, each label.</summary>
    Unit,
}

/// <summary>Says levels in words.</summary>
public static class Levels
{
    /// <summary>So many lines or units, as a word: "line", "units".</summary>
    public static string Word(this Level level, int count) =>
        (level, count) switch
        {
            (Level.Unit, 1) => "unit",
            (Level.Unit, _) => "units",
            (_, 1) => "line",
            _ => "lines",
        };
}
