using System.Text.Json;
using System.Text.Json.Nodes;

namespace Sexton.Core.Types.Settings;

/// <summary>E-mail addresses of people of the shop.</summary>
/// <param name="name">The name in the settings object.</param>
/// <param name="clause">The sentence.</param>
/// <param name="offer">What it is called while not set.</param>
public sealed class AddressesSetting(string name, string clause, string offer) : TypeSetting(name, clause, offer)
{
    private const int Most = 20;

    /// <inheritdoc/>
    public override string Kind => "addresses";

    /// <inheritdoc/>
    public override JsonObject Schema =>
        new()
        {
            ["type"] = "array",
            ["maxItems"] = Most,
            ["items"] = new JsonObject { ["type"] = "string", ["format"] = "email" },
        };

    /// <inheritdoc/>
    public override string? Check(JsonElement value) =>
        value.ValueKind == JsonValueKind.Array
        && value.GetArrayLength() <= Most
        && value.EnumerateArray().All(static t => t.ValueKind == JsonValueKind.String && EmailAddress.IsGood(t.GetString()!))
            ? null
            : $"Give at most {Most} e-mail addresses, separated by commas.";

    /// <inheritdoc/>
    public override string InWords(JsonElement value) => string.Join(", ", value.EnumerateArray().Select(static t => t.GetString()));
}
