using System.Text.Json.Serialization;
using Sexton.Destinations.Papers.Reading;

namespace Sexton.Destinations;

/// <summary>How a part of an artefact is shown.</summary>
public enum PartForm
{
    /// <summary>As the page that it is; an element with the slot's id in "data-slot" is marked.</summary>
    Html,

    /// <summary>As text that a person reads, line by line.</summary>
    Plain,

    /// <summary>As what was sent or served itself, line by line.</summary>
    Bytes,

    /// <summary>As the sheets of a PDF, whose bytes are the content in base 64.</summary>
    Sheets,
}

/// <summary>A part of an artefact.</summary>
/// <param name="Name">What it is called; findings name it so, too.</param>
/// <param name="Form">How it is shown.</param>
/// <param name="Content">Its text.</param>
/// <param name="Marked">The lines, counted from 0, where the slot that is looked for stands; empty where the form tells.</param>
/// <param name="Spots">Where on its sheets the slot stands; empty where it has none.</param>
[method: JsonConstructor]
public sealed record ArtefactPart(string Name, PartForm Form, string Content, IReadOnlyList<int> Marked, IReadOnlyList<PageSpot> Spots)
{
    /// <summary>A part whose form tells where the slot stands, or that does not hold it.</summary>
    public ArtefactPart(string name, PartForm form, string content)
        : this(name, form, content, [], []) { }

    /// <summary>A part of which some lines hold the slot.</summary>
    public ArtefactPart(string name, PartForm form, string content, IReadOnlyList<int> marked)
        : this(name, form, content, marked, []) { }

    /// <summary>Where on its sheets the other slots stand; empty where the form tells.</summary>
    public IReadOnlyList<SlotOnSheet> Others { get; init; } = [];
}

/// <summary>Where on the sheets of a paper a slot stands.</summary>
/// <param name="Slot">The slot.</param>
/// <param name="Name">What it is called there.</param>
/// <param name="Spots">The spots.</param>
public sealed record SlotOnSheet(string Slot, string Name, IReadOnlyList<PageSpot> Spots);
