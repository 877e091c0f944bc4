namespace Sexton.Core.Register;

/// <summary>How often a field is answered ("asked per").</summary>
public enum Level
{
    /// <summary>Once for the whole order.</summary>
    Order,

    /// <summary>Once for every line of the cart.</summary>
    Line,
}
