using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace Sexton.Core.Register;

/// <summary>
/// What was entered for a field, before or after it was made canonical: one text, or named parts of text (a postal address).
/// In JSON a string or an object of strings. Compared by content.
/// </summary>
[JsonConverter(typeof(AnswerValueConverter))]
public sealed class AnswerValue : IEquatable<AnswerValue>
{
    private AnswerValue(string? text, ImmutableSortedDictionary<string, string>? parts)
    {
        Text = text;
        Parts = parts;
    }

    /// <summary>The text, or null when the answer has parts.</summary>
    public string? Text { get; }

    /// <summary>The parts by name, or null when the answer is one text.</summary>
    public ImmutableSortedDictionary<string, string>? Parts { get; }

    /// <summary>An answer of one text.</summary>
    public static AnswerValue Of(string text) => new(text, null);

    /// <summary>An answer of named parts.</summary>
    public static AnswerValue Of(IEnumerable<KeyValuePair<string, string>> parts) =>
        new(null, parts.ToImmutableSortedDictionary(StringComparer.Ordinal));

    /// <inheritdoc/>
    public bool Equals(AnswerValue? other) =>
        other is not null
        && string.Equals(Text, other.Text, StringComparison.Ordinal)
        && (Parts is null ? other.Parts is null : other.Parts is not null && Parts.SequenceEqual(other.Parts));

    /// <inheritdoc/>
    public override bool Equals(object? obj) => Equals(obj as AnswerValue);

    /// <inheritdoc/>
    public override int GetHashCode() =>
        Text is not null ? StringComparer.Ordinal.GetHashCode(Text) : Parts!.Aggregate(17, static (h, p) => HashCode.Combine(h, p.Key, p.Value));

    private sealed class AnswerValueConverter : JsonConverter<AnswerValue>
    {
        public override AnswerValue Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) => reader.TokenType switch
        {
            JsonTokenType.String => Of(reader.GetString()!),
            JsonTokenType.StartObject => Of(JsonSerializer.Deserialize<Dictionary<string, string>>(ref reader, options)!),
            _ => throw new JsonException("An answer is a text, or an object whose values are texts."),
        };

        public override void Write(Utf8JsonWriter writer, AnswerValue value, JsonSerializerOptions options)
        {
            if (value.Text is not null)
            {
                writer.WriteStringValue(value.Text);
                return;
            }

            writer.WriteStartObject();
            foreach (var (name, text) in value.Parts!)
            {
                writer.WriteString(name, text);
            }

            writer.WriteEndObject();
        }
    }
}
