using System.Text.Json.Serialization;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Routing;

/// <summary>What a field and its answers are called at a destination, and what is done there with those that do not fit.</summary>
public sealed record NamesThere
{
    /// <summary>No names of its own: all is called as it is everywhere.</summary>
    public static readonly NamesThere None = new();

    /// <summary>What the field is called; empty for its label.</summary>
    public LanguageMap Name { get; init; } = LanguageMap.Empty;

    /// <summary>What its answers are called.</summary>
    public WordsThere Words { get; init; } = WordsThere.None;

    /// <summary>What is done with an answer that does not fit; null for what the destination says.</summary>
    public Otherwise? Otherwise { get; init; }

    /// <summary>Whether its answers stand there as values under their names, and not as lines of text; only where the kind of destination has such values.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public bool AsValue { get; init; }

    /// <summary>Whether its answers stand there with the order, and not with the line or single one that they are about; only where the kind of destination has such values.</summary>
    [JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)]
    public bool WithOrder { get; init; }

    /// <summary>Whether it changes nothing.</summary>
    [JsonIgnore]
    public bool IsEmpty => Name.IsEmpty && Words.IsEmpty && Otherwise is null && !AsValue && !WithOrder;
}
