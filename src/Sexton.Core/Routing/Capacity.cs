using System.Collections.Immutable;
using System.Text;
using Sexton.Core.Codes;
using Sexton.Core.Facts;

namespace Sexton.Core.Routing;

/// <summary>What a destination can take.</summary>
public sealed record Capacity
{
    /// <summary>The levels for whose answers it has a place.</summary>
    public ImmutableArray<Level> Levels { get; init; } = [Level.Order, Level.Line, Level.Unit];

    /// <summary>The greatest length in characters of an answer of a line or unit; null for no limit.</summary>
    public int? LongestLineText { get; init; }

    /// <summary>The same for an answer of the order.</summary>
    public int? LongestOrderText { get; init; }

    /// <summary>How many characters the free note of a line or unit holds, where what is too long can go on; 0 where there is none.</summary>
    public int LongestLineNote { get; init; }

    /// <summary>The same of the order.</summary>
    public int LongestOrderNote { get; init; }

    /// <summary>Whether it takes files.</summary>
    public bool Files { get; init; } = true;

    /// <summary>Whether a text that a spreadsheet would work out stands there behind an apostrophe, so that it is none.</summary>
    public bool GuardsFormulas { get; init; }

    /// <summary>The characters that it can hold; null for all of Unicode.</summary>
    public CharacterSet? Characters { get; init; }

    /// <summary>What item codes it takes; null where it gets none.</summary>
    public ItemCodeLimits? ItemCodes { get; init; }
}

/// <summary>Some of the characters of Unicode.</summary>
/// <param name="Name">What a sentence calls them: "the characters of ISO 8859-1".</param>
/// <param name="Has">Whether a character is among them.</param>
public sealed record CharacterSet(string Name, Func<Rune, bool> Has)
{
    /// <summary>Whether all characters of a text are among them.</summary>
    public bool HasAll(string text) => text.EnumerateRunes().All(Has);
}
