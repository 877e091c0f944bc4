namespace Sexton.Core.Facts;

/// <summary>What kind of thing a fact is: it decides which relations it takes.</summary>
public enum FactKind
{
    /// <summary>A text, compared exactly.</summary>
    Text,

    /// <summary>An exact number.</summary>
    Number,

    /// <summary>A day.</summary>
    Day,

    /// <summary>Yes or no.</summary>
    Truth,

    /// <summary>One key of a list.</summary>
    Choice,

    /// <summary>Several texts or keys.</summary>
    List,

    /// <summary>Several keys of which any counts: it is one where that is among them, and is not where it is none of them.</summary>
    AnyOf,

    /// <summary>Something that is there or not.</summary>
    Other,
}
