using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using Sexton.Core.Facts;
using Sexton.Core.Values;

namespace Sexton.Core.Conditions;

/// <summary>
/// Conditions as JSON. A group is {"all": […]}, {"any": […]} or {"none": […]}; a test {"fact": …, "is": RELATION, "value": …}; something
/// over lines or units {"lines": QUANTIFIER, "where": …}, and with a count {"units": "count", "is": RELATION, "value": 2, "where": …}.
/// </summary>
internal sealed class ConditionJson : JsonConverter<Condition>
{
    private const int Deepest = 12;
    private const int MostParts = 60;

    public override bool CanConvert(Type typeToConvert) => typeof(Condition).IsAssignableFrom(typeToConvert);

    public override Condition Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        using var document = JsonDocument.ParseValue(ref reader);
        return Read(document.RootElement, options, 1);
    }

    public override void Write(Utf8JsonWriter writer, Condition value, JsonSerializerOptions options)
    {
        writer.WriteStartObject();
        switch (value)
        {
            case ConditionGroup group:
                writer.WritePropertyName(Snake(group.Kind));
                JsonSerializer.Serialize(writer, group.Parts, options);
                break;
            case ConditionTest test:
                writer.WriteString("fact", test.Fact);
                writer.WriteString("is", Snake(test.Relation));
                if (test.Value is not null)
                {
                    writer.WritePropertyName("value");
                    JsonSerializer.Serialize(writer, test.Value, options);
                }

                break;
            case ConditionOver over:
                writer.WriteString(over.Of == Level.Unit ? "units" : "lines", Snake(over.Quantifier));
                if (over.Quantifier == Quantifier.Count)
                {
                    writer.WriteString("is", Snake(over.Relation!.Value));
                    writer.WriteNumber("value", over.Count!.Value);
                }

                if (over.Where is not null)
                {
                    writer.WritePropertyName("where");
                    JsonSerializer.Serialize(writer, over.Where, options);
                }

                break;
            default:
                throw new JsonException("An unknown kind of condition.");
        }

        writer.WriteEndObject();
    }

    private static Condition Read(JsonElement json, JsonSerializerOptions options, int depth)
    {
        if (depth > Deepest)
        {
            throw new JsonException($"A condition is nested at most {Deepest} deep.");
        }

        if (json.ValueKind != JsonValueKind.Object)
        {
            throw new JsonException("A condition is an object.");
        }

        foreach (var kind in Enum.GetValues<GroupKind>())
        {
            if (json.TryGetProperty(Snake(kind), out var parts))
            {
                return parts.ValueKind == JsonValueKind.Array && parts.GetArrayLength() <= MostParts
                    ? new ConditionGroup(kind, [.. parts.EnumerateArray().Select(p => Read(p, options, depth + 1))])
                    : throw new JsonException($"A group is a list of at most {MostParts} conditions.");
            }
        }

        if (json.TryGetProperty("fact", out var fact) && fact.ValueKind == JsonValueKind.String)
        {
            var value =
                json.TryGetProperty("value", out var given) && given.ValueKind != JsonValueKind.Null
                    ? given.Deserialize<AnswerValue>(options)
                    : null;
            return new ConditionTest(fact.GetString()!, Named<Relation>(json, "is"), value);
        }

        if (!json.TryGetProperty("lines", out _) && !json.TryGetProperty("units", out _))
        {
            throw new JsonException("A condition has one of: all, any, none, fact, lines, units.");
        }

        var of = json.TryGetProperty("units", out _) ? Level.Unit : Level.Line;
        var quantifier = Named<Quantifier>(json, of == Level.Unit ? "units" : "lines");
        var where =
            json.TryGetProperty("where", out var body) && body.ValueKind != JsonValueKind.Null ? Read(body, options, depth + 1) : null;
        return quantifier == Quantifier.Count
            ? new ConditionOver(quantifier, of, where, Named<Relation>(json, "is"), Whole(json))
            : new ConditionOver(quantifier, of, where);
    }

    private static int Whole(JsonElement json) =>
        json.TryGetProperty("value", out var value)
        && value.ValueKind == JsonValueKind.Number
        && value.TryGetInt32(out var number)
        && number is >= 0 and <= 100_000
            ? number
            : throw new JsonException("A count is compared with a whole number.");

    private static T Named<T>(JsonElement json, string member)
        where T : struct, Enum
    {
        var name = json.TryGetProperty(member, out var value) && value.ValueKind == JsonValueKind.String ? value.GetString() : null;
        foreach (var known in Enum.GetValues<T>())
        {
            if (Snake(known) == name)
            {
                return known;
            }
        }

        throw new JsonException($"“{name}” is not known as “{member}” of a condition.");
    }

    private static string Snake<T>(T value)
        where T : struct, Enum => JsonNamingPolicy.SnakeCaseLower.ConvertName(value.ToString());
}
