using System.Text.Json;
using System.Text.Json.Serialization;
using Sexton.Core.Facts;
using Sexton.Core.Values;

namespace Sexton.Core.Conditions;

/// <summary>
/// Conditions as JSON, with the relation as the member: a test is {"of": "attribute.height", "over": 3}, or {"of": "answer.name", "was_given": true}, and of one
/// fact against another {"of": "answer.harvest", "over": {"of": "answer.sowing"}}; a group
/// {"together": […]}, {"either": […]} or {"neither": […]}; something over lines or units {"lines": QUANTIFIER, "where": …}, and with a count
/// {"units": "count", "at_least": 2, "where": …}.
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
                writer.WritePropertyName(NameOf(group.Kind));
                JsonSerializer.Serialize(writer, group.Parts, options);
                break;
            case ConditionTest test:
                writer.WriteString("of", test.Fact);
                writer.WritePropertyName(Snake(test.Relation));
                if (!Relations.TakesValue(test.Relation))
                {
                    writer.WriteBooleanValue(true);
                }
                else if (test.Other is not null)
                {
                    writer.WriteStartObject();
                    writer.WriteString("of", test.Other);
                    writer.WriteEndObject();
                }
                else if (test.Value is null)
                {
                    writer.WriteNullValue();
                }
                else
                {
                    JsonSerializer.Serialize(writer, test.Value, options);
                }

                break;
            case ConditionOver over:
                writer.WriteString(over.Of == Level.Unit ? "units" : "lines", Snake(over.Quantifier));
                if (over.Quantifier == Quantifier.Count)
                {
                    writer.WriteNumber(Snake(over.Relation!.Value), over.Count!.Value);
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
            if (json.TryGetProperty(NameOf(kind), out var parts))
            {
                return parts.ValueKind == JsonValueKind.Array && parts.GetArrayLength() <= MostParts
                    ? new ConditionGroup(kind, [.. parts.EnumerateArray().Select(p => Read(p, options, depth + 1))])
                    : throw new JsonException($"A group is a list of at most {MostParts} conditions.");
            }
        }

        if (json.TryGetProperty("of", out var fact) && fact.ValueKind == JsonValueKind.String)
        {
            var (relation, given) = RelationIn(json);
            return OtherIn(relation, given) is { } other
                ? new ConditionTest(fact.GetString()!, relation, Other: other)
                : new ConditionTest(fact.GetString()!, relation, ValueOf(relation, given, options));
        }

        if (!json.TryGetProperty("lines", out _) && !json.TryGetProperty("units", out _))
        {
            throw new JsonException("A condition has one of: together, either, neither, of, lines, units.");
        }

        return Over(json, options, depth);
    }

    private static ConditionOver Over(JsonElement json, JsonSerializerOptions options, int depth)
    {
        var of = json.TryGetProperty("units", out _) ? Level.Unit : Level.Line;
        var quantifier = Named<Quantifier>(json, of == Level.Unit ? "units" : "lines");
        var where =
            json.TryGetProperty("where", out var body) && body.ValueKind != JsonValueKind.Null ? Read(body, options, depth + 1) : null;
        if (quantifier != Quantifier.Count)
        {
            return new ConditionOver(quantifier, of, where);
        }

        var (relation, count) = RelationIn(json);
        return new ConditionOver(quantifier, of, where, relation, Whole(count));
    }

    // An answer of parts is never compared with, so that an object can only be the other fact.
    private static string? OtherIn(Relation relation, JsonElement given)
    {
        if (given.ValueKind != JsonValueKind.Object || !Relations.TakesValue(relation))
        {
            return null;
        }

        return given.TryGetProperty("of", out var other) && other.ValueKind == JsonValueKind.String && given.GetPropertyCount() == 1
            ? other.GetString()
            : throw new JsonException("What a test compares with is a value, or another fact as {\"of\": \"answer.name\"}.");
    }

    private static AnswerValue? ValueOf(Relation relation, JsonElement given, JsonSerializerOptions options)
    {
        if (Relations.TakesValue(relation))
        {
            return given.ValueKind == JsonValueKind.Null ? null : given.Deserialize<AnswerValue>(options);
        }

        return given.ValueKind == JsonValueKind.True
            ? null
            : throw new JsonException($"“{Snake(relation)}” is compared with nothing: give true.");
    }

    // The one member that is a relation.
    private static (Relation Relation, JsonElement Value) RelationIn(JsonElement json)
    {
        var found = Enum.GetValues<Relation>().Where(r => json.TryGetProperty(Snake(r), out _)).ToList();
        return found is [var relation]
            ? (relation, json.GetProperty(Snake(relation)))
            : throw new JsonException(
                found.Count == 0
                    ? $"A test has a relation, such as {{\"of\": \"quantity\", \"over\": 3}}: {string.Join(", ", Enum.GetValues<Relation>().Select(Snake))}."
                    : "A test has one relation, and not several."
            );
    }

    private static int Whole(JsonElement value) =>
        value.ValueKind == JsonValueKind.Number && value.TryGetInt32(out var number) && number is >= 0 and <= 100_000
            ? number
            : throw new JsonException("A count is compared with a whole number.");

    private static string NameOf(GroupKind kind) =>
        kind switch
        {
            GroupKind.All => "together",
            GroupKind.Any => "either",
            _ => "neither",
        };

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
