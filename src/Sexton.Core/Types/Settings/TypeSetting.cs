using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace Sexton.Core.Types.Settings;

/// <summary>
/// A setting of a kind of answer: its name in the settings object, the clause in which the interface shows it, and what values it takes.
/// The interface has one control for each kind of setting, so a new kind of answer needs none of its own.
/// </summary>
/// <param name="name">The name in the settings object.</param>
/// <param name="clause">The sentence, with {} where the value stands: "at most {} characters".</param>
/// <param name="offer">What the interface calls it while it is not set: "a limit of words"; "" when it is always shown.</param>
public abstract class TypeSetting(string name, string clause, string offer)
{
    /// <summary>The name in the settings object.</summary>
    public string Name { get; } = name;

    /// <summary>The sentence, with {} where the value stands.</summary>
    public string Clause { get; } = clause;

    /// <summary>What the interface calls it while it is not set; "" when it is always shown.</summary>
    public string Offer { get; } = offer;

    /// <summary>The stable name of its kind, which says what control the interface draws.</summary>
    public abstract string Kind { get; }

    /// <summary>The value where none is set, or null where nothing is then limited.</summary>
    public JsonElement? Default { get; init; }

    /// <summary>Whether it says how the answer is entered, so that the shopper's form needs it; other settings stay on the server.</summary>
    public bool ForTheForm { get; init; }

    /// <summary>Whether it says where a destination is tried out, and nothing of what goes there otherwise.</summary>
    public bool ForTrials { get; init; }

    /// <summary>The name of another setting without which it says nothing, so that it is neither shown nor offered; null for none.</summary>
    public string? OnlyWith { get; init; }

    /// <summary>The names of other settings that, all of them set, say it already, so that it is neither shown nor counts; empty for none.</summary>
    public ImmutableArray<string> SaidBy { get; init; } = [];

    /// <summary>Whether other settings say it already.</summary>
    /// <param name="settings">What is set.</param>
    public bool IsSaidBy(ImmutableSortedDictionary<string, JsonElement> settings) => !SaidBy.IsEmpty && SaidBy.All(settings.ContainsKey);

    /// <summary>The JSON Schema (draft 2020-12) of its value.</summary>
    public abstract JsonObject Schema { get; }

    /// <summary>What is wrong with a value and how to mend it, or null.</summary>
    public abstract string? Check(JsonElement value);

    /// <summary>The value as words: what stands in the clause.</summary>
    public virtual string InWords(JsonElement value) => value.ToString();
}
