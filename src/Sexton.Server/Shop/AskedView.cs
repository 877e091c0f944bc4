using System.Collections;
using System.Runtime.CompilerServices;
using System.Text.Json;
using System.Text.Json.Serialization;
using Sexton.Core.Asking;
using Sexton.Core.Plan;

namespace Sexton.Server.Shop;

/// <summary>Where a field is asked.</summary>
/// <param name="Field">The key of the field.</param>
/// <param name="Required">Whether an answer must be given.</param>
/// <param name="Text">The canonical text of the answer; "" when left empty or refused.</param>
/// <param name="LineId">The line; left out for the order.</param>
/// <param name="UnitId">The unit within its line; left out for a line or the order.</param>
/// <param name="Choices">The keys of the choices offered here; left out where all are.</param>
/// <param name="Costs">What it costs here; left out where it costs nothing.</param>
/// <param name="Adds">What the answer at hand adds or takes off; left out for nothing.</param>
internal sealed record AskedView(
    string Field,
    bool Required,
    string Text,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? LineId = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? UnitId = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] IReadOnlyList<string>? Choices = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] IReadOnlyList<CostView>? Costs = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? Adds = null
);

/// <summary>Everywhere that something is asked: hundreds of places in a large cart.</summary>
internal sealed class AskedViews(Evaluation evaluation, AnswerCosts costs) : IEnumerable<AskedView>
{
    private static readonly ConditionalWeakTable<RegisterPlan, JsonEncodedText[]> Keys = [];

    private static readonly JsonEncodedText Field = JsonEncodedText.Encode("field"),
        Line = JsonEncodedText.Encode("line_id"),
        Unit = JsonEncodedText.Encode("unit_id"),
        Required = JsonEncodedText.Encode("required"),
        Choices = JsonEncodedText.Encode("choices"),
        Text = JsonEncodedText.Encode("text"),
        Costs = JsonEncodedText.Encode("costs"),
        Adds = JsonEncodedText.Encode("adds");

    public IEnumerator<AskedView> GetEnumerator() =>
        evaluation
            .Asked.Where(static a => !a.Field.Rule.IsKeptOffTheForm)
            .Select(a => new AskedView(
                a.Field.Key,
                a.Required,
                a.TextIn(evaluation.Cart.Language),
                a.LineId,
                a.UnitId,
                a.Field.OffersAll ? null : [.. evaluation.Offered(a).Select(static c => c.Key)],
                costs.Of(a),
                costs.Added(a)
            ))
            .GetEnumerator();

    IEnumerator IEnumerable.GetEnumerator() => GetEnumerator();

    /// <summary>Writes the same JSON without making any of them.</summary>
    /// <param name="writer">Where it is written.</param>
    /// <param name="options">How the rest is written.</param>
    public void Write(Utf8JsonWriter writer, JsonSerializerOptions options)
    {
        var keys = Keys.GetValue(evaluation.Plan, static plan => [.. plan.InOrder.Select(static f => JsonEncodedText.Encode(f.Key))]);
        var language = evaluation.Cart.Language;
        JsonEncodedText line = default;
        string? lineId = null;
        writer.WriteStartArray();
        foreach (var asked in evaluation.Asked)
        {
            if (asked.Field.Rule.IsKeptOffTheForm)
            {
                continue;
            }

            writer.WriteStartObject();
            writer.WriteString(Field, keys[asked.Field.Ordinal]);
            writer.WriteBoolean(Required, asked.Required);
            writer.WriteString(Text, asked.TextIn(language));
            if (asked.LineId is not null)
            {
                // Line by line, so that each is looked at once.
                if (!ReferenceEquals(lineId, asked.LineId))
                {
                    (lineId, line) = (asked.LineId, JsonEncodedText.Encode(asked.LineId, options.Encoder));
                }

                writer.WriteString(Line, line);
            }

            if (asked.UnitId is not null)
            {
                writer.WriteString(Unit, asked.UnitId);
            }

            if (!asked.Field.OffersAll)
            {
                writer.WriteStartArray(Choices);
                foreach (var choice in evaluation.Offered(asked))
                {
                    writer.WriteStringValue(choice.Key);
                }

                writer.WriteEndArray();
            }

            if (costs.Of(asked) is { } cost)
            {
                writer.WritePropertyName(Costs);
                JsonSerializer.Serialize(writer, cost, options);
            }

            if (costs.Added(asked) is { } adds)
            {
                writer.WriteString(Adds, adds);
            }

            writer.WriteEndObject();
        }

        writer.WriteEndArray();
    }
}
