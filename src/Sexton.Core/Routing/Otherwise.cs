namespace Sexton.Core.Routing;

/// <summary>What is done with an answer that a destination cannot take as it is. Never silently.</summary>
public enum Otherwise
{
    /// <summary>A field whose answers may not fit is refused before publishing.</summary>
    Refuse,

    /// <summary>The delivery stops, and whoever answers for the destination is called.</summary>
    Call,

    /// <summary>What is too long is shortened, with a mark.</summary>
    Shorten,

    /// <summary>What is too long goes on in the note of its level.</summary>
    Note,
}
