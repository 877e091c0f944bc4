using System.Collections.Immutable;
using System.Text.Json;

namespace Sexton.Core.Register;

/// <summary>One question of the register, as plain data. <see cref="RegisterPlan"/> is what it is compiled to.</summary>
public sealed record Field
{
    /// <summary>The stable key; see <see cref="FieldKey"/>.</summary>
    public required string Key { get; init; }

    /// <summary>The key of the kind of answer; see <see cref="Types.FieldTypes"/>.</summary>
    public required string Type { get; init; }

    /// <summary>How often it is asked.</summary>
    public required Level Level { get; init; }

    /// <summary>The key of the step where it is asked; see <see cref="Register.Step"/>.</summary>
    public required string Step { get; init; }

    /// <summary>True for a question that the shop asks by itself: it cannot be removed, nor made optional where the job needs it.</summary>
    public bool BuiltIn { get; init; }

    /// <summary>The question as the shopper reads it.</summary>
    public required LanguageMap Label { get; init; }

    /// <summary>A sentence of help under the control, or none.</summary>
    public LanguageMap Help { get; init; } = LanguageMap.Empty;

    /// <summary>The example inside the empty control, or none.</summary>
    public LanguageMap Placeholder { get; init; } = LanguageMap.Empty;

    /// <summary>Whether an answer must be given while the field is asked.</summary>
    public bool Required { get; init; }

    /// <summary>Of which products it is asked; always all for a field asked once per order.</summary>
    public ProductScope AskedOf { get; init; } = ProductScope.Every;

    /// <summary>The settings of the type, by name; what is not set has the type's own default.</summary>
    public ImmutableSortedDictionary<string, JsonElement> Settings { get; init; } = ImmutableSortedDictionary<string, JsonElement>.Empty;

    /// <summary>The keys of the destinations that it goes to; see <see cref="Routing.DestinationIndex"/>.</summary>
    public ImmutableSortedSet<string> GoesTo { get; init; } = [];
}

/// <summary>All fields of the shop, in the order in which they are asked. A draft, or the content of a published version.</summary>
/// <param name="Fields">The fields.</param>
public sealed record RegisterContent(ImmutableArray<Field> Fields)
{
    /// <summary>The field with a key, or null.</summary>
    public Field? Find(string key) => Fields.FirstOrDefault(f => string.Equals(f.Key, key, StringComparison.Ordinal));
}
