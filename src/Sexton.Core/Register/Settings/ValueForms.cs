using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Codes;
using Sexton.Core.Components;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Pricing;
using Sexton.Core.Register.Edits;
using Sexton.Core.Values;

namespace Sexton.Core.Register.Settings;

/// <summary>The kinds of values that settings of fields take.</summary>
internal static class ValueForms
{
    public static readonly ValueForm<bool> Truth = new(EditValue.Truth, Of("boolean"));
    public static readonly ValueForm<string> Key = new(static (v, p) => EditValue.Key(v, p) ?? "", Of("string"));
    public static readonly ValueForm<string?> KeyOrNone = new(EditValue.Key, Of("string", "null"));
    public static readonly ValueForm<string?> PlaceInAddress = new(EditValue.PlaceInAddress, Of("string", "null"));
    public static readonly ValueForm<string> Picture = new(EditValue.Picture, Of("string"));
    public static readonly ValueForm<Condition?> Condition = new(EditValue.Condition, Of("object", "null"));
    public static readonly ValueForm<Level> Level = new(
        EditValue.Level,
        new()
        {
            ["enum"] = new JsonArray([
                .. Enum.GetNames<Level>().Select(static n => (JsonNode)JsonNamingPolicy.SnakeCaseLower.ConvertName(n)),
            ]),
        }
    );
    public static readonly ValueForm<ProductScope> Scope = new(EditValue.Scope, Of("object"));
    public static readonly ValueForm<ImmutableArray<Price>> Prices = new(EditValue.Prices, Of("array"));
    public static readonly ValueForm<ImmutableArray<ComponentUsage>> Uses = new(EditValue.Uses, Of("array"));
    public static readonly ValueForm<FieldCode?> Code = new(EditValue.Code, Of("object", "null"));
    public static readonly ValueForm<JsonElement> Any = new(static (v, _) => v, []);
    public static readonly ValueForm<AnswerValue?> Answer = new(
        static (v, p) => EditValue.Answer(v, p) is { IsBlank: false } given ? given : null,
        []
    );

    /// <summary>A text of at most so many characters.</summary>
    public static ValueForm<string> Text(int longest) =>
        new((v, p) => EditValue.Text(v, p, longest), new() { ["type"] = "string", ["maxLength"] = longest });

    /// <summary>A whole number from 0.</summary>
    public static ValueForm<int> Whole(int most) =>
        new(
            (v, p) => EditValue.Whole(v, p, 0, most),
            new()
            {
                ["type"] = "integer",
                ["minimum"] = 0,
                ["maximum"] = most,
            }
        );

    /// <summary>A whole number of a range, or none.</summary>
    public static ValueForm<int?> WholeOrNone(int least, int most) =>
        new(
            (v, p) => v.ValueKind == JsonValueKind.Null ? null : EditValue.Whole(v, p, least, most),
            new()
            {
                ["type"] = new JsonArray("integer", "null"),
                ["minimum"] = least,
                ["maximum"] = most,
            }
        );

    private static JsonObject Of(params string[] types) => new() { ["type"] = new JsonArray([.. types.Select(static t => (JsonNode)t)]) };
}
