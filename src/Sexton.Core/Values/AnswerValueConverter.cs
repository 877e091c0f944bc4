using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace Sexton.Core.Values;

/// <summary>Reads and writes answers as JSON.</summary>
internal sealed class AnswerValueConverter : JsonConverter<AnswerValue>
{
    /// <inheritdoc/>
    public override AnswerValue Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        Read(ref reader, options);

    /// <summary>Reads the answer at which a reader stands.</summary>
    /// <exception cref="JsonException">What stands there is no answer.</exception>
    public static AnswerValue Read(ref Utf8JsonReader reader, JsonSerializerOptions options)
    {
        switch (reader.TokenType)
        {
            case JsonTokenType.String:
                return AnswerValue.Of(LenientText.Read(ref reader));
            case JsonTokenType.True:
                return AnswerValue.Yes;
            case JsonTokenType.False:
                return AnswerValue.No;
            case JsonTokenType.Number when reader.TryGetDecimal(out var number):
                return AnswerValue.Of(number);
            case JsonTokenType.StartArray:
                return ReadList(ref reader, options);
            case JsonTokenType.StartObject:
                return ReadParts(ref reader);
            default:
                throw Unreadable();
        }
    }

    /// <inheritdoc/>
    public override void Write(Utf8JsonWriter writer, AnswerValue value, JsonSerializerOptions options)
    {
        if (value.Text is { } text)
        {
            writer.WriteStringValue(text);
        }
        else if (value.Number is { } number)
        {
            writer.WriteNumberValue(number);
        }
        else if (value.Truth is { } truth)
        {
            writer.WriteBooleanValue(truth);
        }
        else if (value.Picks is { } picks)
        {
            writer.WriteStartArray();
            foreach (var pick in picks)
            {
                writer.WriteStringValue(pick);
            }

            writer.WriteEndArray();
        }
        else if (value.Files is { } files)
        {
            JsonSerializer.Serialize(writer, files, options);
        }
        else
        {
            writer.WriteStartObject();
            foreach (var (name, part) in value.Parts!)
            {
                writer.WriteString(name, part);
            }

            writer.WriteEndObject();
        }
    }

    private static AnswerValue ReadList(ref Utf8JsonReader reader, JsonSerializerOptions options)
    {
        var ahead = reader;
        if (ahead.Read() && ahead.TokenType == JsonTokenType.StartObject)
        {
            return AnswerValue.Of([.. JsonSerializer.Deserialize<FileValue[]>(ref reader, options)!]);
        }

        var picks = ImmutableArray.CreateBuilder<string>();
        while (reader.Read() && reader.TokenType != JsonTokenType.EndArray)
        {
            picks.Add(reader.TokenType == JsonTokenType.String ? LenientText.Read(ref reader) : throw Unreadable());
        }

        return AnswerValue.Of(picks.ToImmutable());
    }

    private static AnswerValue ReadParts(ref Utf8JsonReader reader)
    {
        var parts = new Dictionary<string, string>(StringComparer.Ordinal);
        while (reader.Read() && reader.TokenType == JsonTokenType.PropertyName)
        {
            var name = LenientText.Read(ref reader);
            parts[name] = reader.Read() && reader.TokenType == JsonTokenType.String ? LenientText.Read(ref reader) : throw Unreadable();
        }

        return AnswerValue.Of(parts);
    }

    private static JsonException Unreadable() =>
        new("An answer is a text, a number, true or false, a list of texts, an object whose values are texts, or a list of files.");
}
