using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Values;

namespace Sexton.Core.Types.Settings;

/// <summary>The field whose answer something follows.</summary>
/// <param name="name">The name in the settings object.</param>
/// <param name="clause">The sentence.</param>
/// <param name="offer">What it is called while not set.</param>
/// <param name="types">The kinds of answer of which it must have one.</param>
public sealed class AnswerSetting(string name, string clause, string offer, params ImmutableArray<string> types)
    : TypeSetting(name, clause, offer)
{
    /// <inheritdoc/>
    public override string Kind => "answer";

    /// <summary>The kinds of answer of which the field must have one.</summary>
    public ImmutableArray<string> Types => types;

    /// <inheritdoc/>
    public override JsonObject Schema => new() { ["type"] = "string", ["pattern"] = FieldKey.Pattern };

    /// <inheritdoc/>
    public override string? Check(JsonElement value) =>
        value.ValueKind == JsonValueKind.String && FieldKey.IsValid(value.GetString()!) ? null : "Choose a field.";
}
