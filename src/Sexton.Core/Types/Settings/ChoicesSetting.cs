using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Sexton.Core.Values;

namespace Sexton.Core.Types.Settings;

/// <summary>The list that a field offers.</summary>
/// <param name="name">The name in the settings object.</param>
/// <param name="clause">The sentence.</param>
public sealed partial class ChoicesSetting(string name, string clause) : TypeSetting(name, clause, "")
{
    /// <summary>The greatest number of choices.</summary>
    public const int Most = 500;

    private const int LongestLabel = 80;

    /// <inheritdoc/>
    public override string Kind => "choices";

    /// <inheritdoc/>
    public override JsonObject Schema =>
        new()
        {
            ["type"] = "array",
            ["maxItems"] = Most,
            ["items"] = new JsonObject
            {
                ["type"] = "object",
                ["required"] = new JsonArray("key", "label"),
                ["additionalProperties"] = false,
                ["properties"] = new JsonObject
                {
                    ["key"] = new JsonObject { ["type"] = "string", ["pattern"] = "^[a-z][a-z0-9_]{0,39}$" },
                    ["label"] = new JsonObject
                    {
                        ["type"] = "object",
                        ["additionalProperties"] = new JsonObject { ["type"] = "string" },
                    },
                    ["picture"] = new JsonObject { ["type"] = "string" },
                    ["colour"] = new JsonObject { ["type"] = "string", ["pattern"] = "^(#[0-9a-f]{6})?$" },
                    ["code"] = new JsonObject { ["type"] = "string" },
                    ["weight_grams"] = new JsonObject { ["type"] = "integer", ["minimum"] = 0 },
                    ["excludes"] = new JsonObject { ["type"] = "boolean" },
                    ["when"] = new JsonObject(),
                },
            },
        };

    /// <summary>The choices of a settings object; none where the value is missing.</summary>
    public static ImmutableArray<Choice> Read(JsonElement? value) =>
        value is { } list ? [.. list.Deserialize<Choice[]>(DocumentJson.Options)!] : [];

    /// <inheritdoc/>
    public override string? Check(JsonElement value)
    {
        ImmutableArray<Choice> choices;
        try
        {
            choices = Read(value);
        }
        catch (JsonException)
        {
            return "Give a list of choices, each with a key and a label.";
        }

        if (choices.Length > Most)
        {
            return $"A list holds {Most} choices.";
        }

        return choices.Select(Wrong).FirstOrDefault(static w => w is not null)
            ?? (
                choices.GroupBy(static c => c.Key, StringComparer.Ordinal).FirstOrDefault(static g => g.Count() > 1) is { } twice
                    ? $"The key “{twice.Key}” stands twice."
                    : null
            );
    }

    /// <inheritdoc/>
    public override string InWords(JsonElement value) =>
        string.Join(", ", Read(value).Select(static c => c.Label.InEach(static t => $"“{t}”") + Details(c)));

    private static string Details(Choice choice)
    {
        var details = new[]
        {
            choice.Code.Length > 0 ? "code " + choice.Code : "",
            choice.WeightGrams > 0 ? $"{choice.WeightGrams} g" : "",
            choice.Picture,
            choice.Colour,
            choice.Excludes ? "excludes the others" : "",
        }
            .Where(static d => d.Length > 0)
            .ToList();
        return details.Count == 0 ? "" : $" ({string.Join(", ", details)})";
    }

    private static string? Wrong(Choice choice) =>
        !FieldKey.IsValid(choice.Key) ? $"“{choice.Key}” cannot be the key of a choice. Use a to z, digits and _, beginning with a letter."
        : choice.Label.IsEmpty ? $"The choice “{choice.Key}” has no label."
        : !choice.Label.Texts.Values.All(static t => Graphemes.FitIn(t, LongestLabel))
            ? $"“{choice.Label}” is too long. Shorten it to {LongestLabel} characters."
        : choice.Colour.Length > 0 && !Colour().IsMatch(choice.Colour) ? $"Give the colour of “{choice.Label}” as #rrggbb."
        : choice.Picture.Length > 0 && !PictureName.IsValid(choice.Picture) ? $"“{choice.Picture}” is not the name of a picture."
        : null;

    [GeneratedRegex("^#[0-9a-f]{6}$", RegexOptions.NonBacktracking)]
    private static partial Regex Colour();
}
