using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Values;

namespace Sexton.Core.Types.Settings;

/// <summary>The connection by which another system is reached: its key among those of the shop.</summary>
/// <param name="name">The name in the settings object.</param>
/// <param name="clause">The sentence.</param>
/// <param name="offer">What it is called while not set.</param>
public sealed class ConnectionSetting(string name, string clause, string offer) : TypeSetting(name, clause, offer)
{
    /// <inheritdoc/>
    public override string Kind => "connection";

    /// <inheritdoc/>
    public override JsonObject Schema => new() { ["type"] = "string", ["pattern"] = FieldKey.Pattern };

    /// <inheritdoc/>
    public override string? Check(JsonElement value) =>
        value.ValueKind == JsonValueKind.String && FieldKey.IsValid(value.GetString()!) ? null : "Choose a connection.";
}
