using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Values;

namespace Sexton.Core.Types.Settings;

/// <summary>The field whose answer something follows.</summary>
/// <param name="name">The name in the settings object.</param>
/// <param name="clause">The sentence.</param>
/// <param name="offer">What it is called while not set.</param>
/// <param name="type">The kind of answer that it must have.</param>
public sealed class AnswerSetting(string name, string clause, string offer, string type) : TypeSetting(name, clause, offer)
{
    /// <inheritdoc/>
    public override string Kind => "answer";

    /// <summary>The kind of answer that the field must have.</summary>
    public string Type => type;

    /// <inheritdoc/>
    public override JsonObject Schema => new() { ["type"] = "string", ["pattern"] = "^[a-z][a-z0-9_]*$" };

    /// <inheritdoc/>
    public override string? Check(JsonElement value) =>
        value.ValueKind == JsonValueKind.String && FieldKey.IsValid(value.GetString()!) ? null : "Choose a field.";
}
