using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Formulas;
using Sexton.Core.Values;

namespace Sexton.Core.Types.Settings;

/// <summary>The rows by which an answer is worked out. What they are about is checked when the register is compiled.</summary>
/// <param name="name">The name in the settings object.</param>
/// <param name="clause">The sentence.</param>
public sealed class FormulaSetting(string name, string clause) : TypeSetting(name, clause, "")
{
    /// <inheritdoc/>
    public override string Kind => "working";

    /// <inheritdoc/>
    public override JsonObject Schema =>
        new()
        {
            ["type"] = "array",
            ["items"] = new JsonObject
            {
                ["type"] = "object",
                ["required"] = new JsonArray("do"),
                ["properties"] = new JsonObject
                {
                    ["do"] = new JsonObject
                    {
                        ["enum"] = new JsonArray([
                            .. Enum.GetValues<FormulaStep>().Select(static s => JsonSerializer.SerializeToNode(s, DocumentJson.Options)),
                        ]),
                    },
                },
            },
        };

    /// <summary>The rows of a settings object; none where the value is missing.</summary>
    public static ImmutableArray<FormulaRow> Read(JsonElement? value) =>
        value is { } list ? [.. list.Deserialize<FormulaRow[]>(DocumentJson.Options)!] : [];

    /// <inheritdoc/>
    public override string? Check(JsonElement value)
    {
        try
        {
            return Read(value).Any(static r => r is null) ? "Give a list of rows." : null;
        }
        catch (JsonException e)
        {
            return e.Message.Contains("Path:", StringComparison.Ordinal) ? "Give a list of rows." : e.Message;
        }
    }

    /// <inheritdoc/>
    public override string InWords(JsonElement value) => string.Join(", ", Read(value).Select(InWords));

    private static string InWords(FormulaRow row) =>
        row.Do switch
        {
            FormulaStep.Take => InWords(row.Of),
            FormulaStep.RoundUp => "rounded up" + Multiples(row),
            FormulaStep.RoundDown => "rounded down" + Multiples(row),
            FormulaStep.Round => "rounded" + Multiples(row),
            FormulaStep.ByBands => "then " + string.Join(", ", row.Bands.Select(static b => $"{Number(b.Gives)} over {Number(b.Over)}")),
            _ => $"{JsonNamingPolicy.SnakeCaseLower.ConvertName(row.Do.ToString()).Replace('_', ' ')} {InWords(row.Of)}",
        };

    private static string InWords(Term? term) =>
        term switch
        {
            null => "",
            { Value: { } value } => value.Text is { } text ? $"“{text}”" : value.ToString(),
            { Rows.IsEmpty: false } => $"({string.Join(", ", term.Rows.Select(InWords))})",
            { Over: { } over } =>
                $"the {term.Summary.ToString().ToLowerInvariant()} {(term.Fact is null ? "" : $"of {Plain(term.Fact)} ")}over {over.Word(2)}",
            { DaysTo: { } to } => $"the days from {Plain(term.Fact)} to {Plain(to)}",
            { LengthBy: { } by } => $"the {by.ToString().ToLowerInvariant()}s of {Plain(term.Fact)}",
            _ => Plain(term.Fact) + (term.Else is null ? "" : $" (else {term.Else})"),
        };

    private static string Plain(string? fact) =>
        (ShopFacts.FieldOf(fact ?? "") ?? ShopFacts.AttributeOf(fact ?? "") ?? fact ?? "").Replace('_', ' ');

    private static string Multiples(FormulaRow row) => row.To == 1 ? "" : $" to multiples of {Number(row.To)}";

    private static string Number(decimal number) => number.ToString(CultureInfo.InvariantCulture);
}
