using System.Collections;
using System.Runtime.CompilerServices;
using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization;
using Sexton.Core.Asking;
using Sexton.Core.Plan;

namespace Sexton.Server.Shop;

/// <summary>Where a field is asked.</summary>
/// <param name="Field">The key of the field.</param>
/// <param name="Required">Whether an answer must be given; left out where it need not be.</param>
/// <param name="Text">The canonical text of the answer; left out when left empty or refused.</param>
/// <param name="LineId">The line; left out for the order.</param>
/// <param name="UnitId">The unit within its line; left out for a line or the order.</param>
/// <param name="Choices">The keys of the choices offered here; left out where all are.</param>
/// <param name="Costs">What it costs here; left out where it costs nothing.</param>
/// <param name="Adds">What the answer at hand adds or takes off; left out for nothing.</param>
internal sealed record AskedView(
    string Field,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingDefault)] bool Required = false,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? Text = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? LineId = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? UnitId = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] IReadOnlyList<string>? Choices = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] IReadOnlyList<CostView>? Costs = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? Adds = null
);

/// <summary>Everywhere that something is asked: hundreds of places in a large cart.</summary>
internal sealed class AskedViews(Evaluation evaluation, AnswerCosts costs) : IEnumerable<AskedView>, IWrittenStraight
{
    private static readonly ConditionalWeakTable<RegisterPlan, byte[][]> Beginnings = [];

    public IEnumerator<AskedView> GetEnumerator() =>
        evaluation
            .Asked.Where(static a => !a.Field.Rule.IsKeptOffTheForm)
            .Select(a => new AskedView(
                a.Field.Key,
                a.Required,
                a.TextIn(evaluation.Cart.Language) is { Length: > 0 } text ? text : null,
                a.LineId,
                a.UnitId,
                a.Field.OffersAll ? null : [.. evaluation.Offered(a).Select(static c => c.Key)],
                costs.Of(a),
                costs.Added(a)
            ))
            .GetEnumerator();

    IEnumerator IEnumerable.GetEnumerator() => GetEnumerator();

    /// <inheritdoc/>
    /// <remarks>It is most of a reply. Keys have nothing in them that JSON escapes.</remarks>
    public void Write(Utf8JsonWriter writer, JsonSerializerOptions options)
    {
        var beginnings = Beginnings.GetValue(
            evaluation.Plan,
            static plan => [.. plan.InOrder.Select(static f => Encoding.UTF8.GetBytes($",{{\"field\":\"{f.Key}\""))]
        );
        var language = evaluation.Cart.Language;
        var (line, lineId, first) = (Array.Empty<byte>(), default(string), true);
        var json = new JsonParts();
        json.Add("["u8);
        foreach (var asked in evaluation.Asked)
        {
            var field = asked.Field;
            if (field.Rule.IsKeptOffTheForm)
            {
                continue;
            }

            json.Add(beginnings[field.Ordinal].AsSpan(first ? 1 : 0));
            first = false;
            if (asked.Required)
            {
                json.Add(",\"required\":true"u8);
            }

            var text = asked.TextIn(language);
            if (text.Length > 0)
            {
                json.Add(",\"text\":"u8);
                json.AddText(text);
            }

            if (asked.LineId is not null)
            {
                // Line by line, so that each is looked at once.
                if (!ReferenceEquals(lineId, asked.LineId))
                {
                    (lineId, line) = (asked.LineId, [.. ",\"line_id\":"u8, .. JsonParts.Written(asked.LineId)]);
                }

                json.Add(line);
            }

            if (asked.UnitId is not null)
            {
                json.Add(",\"unit_id\":"u8);
                json.AddText(asked.UnitId);
            }

            if (!field.OffersAll)
            {
                json.Add(",\"choices\":"u8);
                json.Add(JsonSerializer.SerializeToUtf8Bytes(evaluation.Offered(asked).Select(static c => c.Key), options));
            }

            if (costs.Of(asked) is { } cost)
            {
                json.Add(",\"costs\":"u8);
                json.Add(JsonSerializer.SerializeToUtf8Bytes(cost, options));
            }

            if (costs.Added(asked) is { } adds)
            {
                json.Add(",\"adds\":"u8);
                json.AddText(adds);
            }

            json.Add("}"u8);
        }

        json.Add("]"u8);
        json.WriteTo(writer);
    }
}
