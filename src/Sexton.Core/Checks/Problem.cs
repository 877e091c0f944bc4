using System.Collections.Immutable;
using System.Text.Json;

namespace Sexton.Core.Checks;

/// <summary>What a check found wrong with the draft. It must be mended, or where it can be meant accepted with a reason, before the draft is published.</summary>
/// <param name="Code">The stable code of the check.</param>
/// <param name="Field">The key of the field.</param>
/// <param name="Setting">The path of the setting under whose clause it stands.</param>
/// <param name="Sentence">What is wrong.</param>
/// <param name="Remedies">Changes that mend it.</param>
public sealed record Problem(string Code, string Field, string Setting, string Sentence, ImmutableArray<Remedy> Remedies)
{
    /// <summary>What the problem rests on, where it can be accepted because it is meant; null where it must be mended. Accepted, it is quiet until this changes.</summary>
    public string? Basis { get; init; }
}

/// <summary>A change that mends a problem.</summary>
/// <param name="Label">What the action is called.</param>
/// <param name="Setting">The path of the setting to change; see <see cref="Register.Settings.FieldSettings"/>.</param>
/// <param name="Value">Its new value.</param>
public sealed record Remedy(string Label, string Setting, JsonElement Value)
{
    /// <summary>A remedy with a value of any plain type.</summary>
    public static Remedy To<T>(string label, string setting, T value) => new(label, setting, JsonSerializer.SerializeToElement(value));
}
