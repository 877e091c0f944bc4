namespace Sexton.Core.Register;

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
