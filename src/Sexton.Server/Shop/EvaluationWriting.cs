using System.Runtime.CompilerServices;
using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.Extensions.Options;
using Sexton.Core.Register;

namespace Sexton.Server.Shop;

/// <summary>
/// How replies with an evaluation are written: to the same JSON as everything else, but what makes up most of it straight, since a
/// shopper waits for it at every pause in typing.
/// </summary>
internal sealed class EvaluationWriting(IOptions<JsonOptions> json)
{
    private readonly JsonSerializerOptions _options = new(json.Value.SerializerOptions)
    {
        Converters = { new WrittenOnce(json.Value.SerializerOptions), new WrittenStraight(json.Value.SerializerOptions) },
    };

    /// <summary>Writes a reply.</summary>
    public byte[] Write<T>(T reply) => JsonSerializer.SerializeToUtf8Bytes(reply, _options);

    // The forms of fields are the same few in every reply.
    private sealed class WrittenOnce(JsonSerializerOptions plain) : JsonConverter<FormField>
    {
        private readonly ConditionalWeakTable<FormField, byte[]> _written = [];

        public override FormField Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            throw new NotSupportedException();

        public override void Write(Utf8JsonWriter writer, FormField value, JsonSerializerOptions options) =>
            writer.WriteRawValue(
                _written.GetValue(value, field => JsonSerializer.SerializeToUtf8Bytes(field, plain)),
                skipInputValidation: true
            );
    }

    // One for each place where a field is asked: hundreds.
    private sealed class WrittenStraight(JsonSerializerOptions plain) : JsonConverter<AskedView>
    {
        private static readonly JsonEncodedText Field = JsonEncodedText.Encode("field"),
            Line = JsonEncodedText.Encode("line_id"),
            Unit = JsonEncodedText.Encode("unit_id"),
            Required = JsonEncodedText.Encode("required"),
            Choices = JsonEncodedText.Encode("choices"),
            Text = JsonEncodedText.Encode("text"),
            Costs = JsonEncodedText.Encode("costs"),
            Adds = JsonEncodedText.Encode("adds");

        public override AskedView Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            throw new NotSupportedException();

        public override void Write(Utf8JsonWriter writer, AskedView value, JsonSerializerOptions options)
        {
            writer.WriteStartObject();
            writer.WriteString(Field, value.Field);
            writer.WriteBoolean(Required, value.Required);
            writer.WriteString(Text, value.Text);
            if (value.LineId is not null)
            {
                writer.WriteString(Line, value.LineId);
            }

            if (value.UnitId is not null)
            {
                writer.WriteString(Unit, value.UnitId);
            }

            if (value.Choices is not null)
            {
                writer.WriteStartArray(Choices);
                foreach (var choice in value.Choices)
                {
                    writer.WriteStringValue(choice);
                }

                writer.WriteEndArray();
            }

            if (value.Costs is not null)
            {
                writer.WritePropertyName(Costs);
                JsonSerializer.Serialize(writer, value.Costs, plain);
            }

            if (value.Adds is not null)
            {
                writer.WriteString(Adds, value.Adds);
            }

            writer.WriteEndObject();
        }
    }
}
