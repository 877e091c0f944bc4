using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Codes;
using Sexton.Core.Conditions;

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

    /// <summary>Which orders, or which of their lines or units, go there; null for all.</summary>
    public Condition? Gets { get; init; }

    /// <summary>When no prices stand there, of those that its kind shows; null for never.</summary>
    public Condition? WithoutPricesWhen { get; init; }

    /// <summary>The keys of fields in the order in which their answers stand there; the others follow as they stand on the map.</summary>
    public ImmutableArray<string> Order { get; init; } = [];

    /// <summary>How lines of single products leave for it, by the code of the product; the others leave as the rules of item codes say.</summary>
    public ImmutableSortedDictionary<string, LineLeaving> ProductsLeave { get; init; } =
        ImmutableSortedDictionary<string, LineLeaving>.Empty;

    /// <summary>How the components of single fields leave for it, by the key of the field, whatever is said of the product.</summary>
    public ImmutableSortedDictionary<string, LineLeaving> FieldsLeave { get; init; } = ImmutableSortedDictionary<string, LineLeaving>.Empty;

    /// <summary>From when on it may have them.</summary>
    public Release Release { get; init; }

    /// <summary>The key of the field whose answer gives the day, where it is released on a day.</summary>
    public string? Day { get; init; }

    /// <summary>Whether it gets an order only once, whatever is corrected since.</summary>
    public bool OnlyOnce { get; init; }

    /// <summary>What is done with answers that it cannot take as they are, where nothing else is said of the field.</summary>
    public Otherwise Otherwise { get; init; }

    /// <summary>Switched off: no order that is placed goes there until it is switched on again.</summary>
    public bool SwitchedOff { get; init; }

    /// <summary>Retired: no order goes there again, and it is kept so that what went there can be read.</summary>
    public bool Retired { get; init; }
}
