using System.Collections.Immutable;
using System.Text.Json;

namespace Sexton.Core.Routing;

/// <summary>Somewhere that answers go, as plain data of the register.</summary>
public sealed record Destination
{
    /// <summary>The stable key; keys of fields, sections, steps and destinations never meet.</summary>
    public required string Key { get; init; }

    /// <summary>The key of its kind.</summary>
    public required string Kind { get; init; }

    /// <summary>What the interface calls it.</summary>
    public required string Name { get; init; }

    /// <summary>The settings of its kind, by name; what is not set has the kind's own default.</summary>
    public ImmutableSortedDictionary<string, JsonElement> Settings { get; init; } = ImmutableSortedDictionary<string, JsonElement>.Empty;

    /// <summary>What fields and their answers are called there, by the key of the field; one without names is called as it is everywhere.</summary>
    public ImmutableSortedDictionary<string, NamesThere> Names { get; init; } = ImmutableSortedDictionary<string, NamesThere>.Empty;

    /// <summary>Whether a new field goes there by itself.</summary>
    public bool TakesNewFields { get; init; }
}
