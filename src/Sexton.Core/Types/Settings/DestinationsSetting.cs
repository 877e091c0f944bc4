using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Values;

namespace Sexton.Core.Types.Settings;

/// <summary>Other destinations of a family, by their keys.</summary>
/// <param name="name">The name in the settings object.</param>
/// <param name="clause">The sentence.</param>
/// <param name="offer">What it is called while not set.</param>
/// <param name="family">The key of the family.</param>
public sealed class DestinationsSetting(string name, string clause, string offer, string family) : TypeSetting(name, clause, offer)
{
    private const int Most = 10;

    /// <inheritdoc/>
    public override string Kind => "destinations";

    /// <summary>The key of the family to which they belong.</summary>
    public string Family => family;

    /// <inheritdoc/>
    public override JsonObject Schema =>
        new()
        {
            ["type"] = "array",
            ["maxItems"] = Most,
            ["items"] = new JsonObject { ["type"] = "string", ["pattern"] = FieldKey.Pattern },
            ["uniqueItems"] = true,
        };

    /// <inheritdoc/>
    public override string? Check(JsonElement value) =>
        value.ValueKind == JsonValueKind.Array
        && value.GetArrayLength() <= Most
        && value.EnumerateArray().All(static k => k.ValueKind == JsonValueKind.String && FieldKey.IsValid(k.GetString()!))
        && value.EnumerateArray().Select(static k => k.GetString()).Distinct().Count() == value.GetArrayLength()
            ? null
            : $"Choose at most {Most} of them, each once.";

    /// <inheritdoc/>
    public override string InWords(JsonElement value) => string.Join(", ", value.EnumerateArray().Select(static k => k.GetString()));
}
