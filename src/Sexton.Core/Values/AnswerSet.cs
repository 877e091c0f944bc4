using System.Collections;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace Sexton.Core.Values;

/// <summary>
/// Answers by field key, sorted by key. Immutable; compared by content. A sorted array, so that it is walked beside the fields of a plan
/// without looking any key up. In JSON an object.
/// </summary>
[JsonConverter(typeof(AnswerSetConverter))]
public sealed class AnswerSet : IReadOnlyCollection<KeyValuePair<string, AnswerValue>>, IEquatable<AnswerSet>
{
    /// <summary>No answers.</summary>
    public static readonly AnswerSet Empty = new([]);

    private readonly KeyValuePair<string, AnswerValue>[] _sorted;

    private AnswerSet(KeyValuePair<string, AnswerValue>[] sorted) => _sorted = sorted;

    /// <inheritdoc/>
    public int Count => _sorted.Length;

    /// <summary>The answers in the order of their keys (ordinal).</summary>
    public ReadOnlySpan<KeyValuePair<string, AnswerValue>> Sorted => _sorted;

    /// <summary>A set of answers; of two with one key the last counts.</summary>
    public static AnswerSet Of(IEnumerable<KeyValuePair<string, AnswerValue>> answers)
    {
        var given = answers.ToArray();
        return given.Length == 0 ? Empty : new(IsSorted(given) ? given : Sort(given));
    }

    /// <summary>The answer of a field, or null.</summary>
    public AnswerValue? Find(string key)
    {
        var (low, high) = (0, _sorted.Length - 1);
        while (low <= high)
        {
            var middle = (low + high) / 2;
            var order = string.CompareOrdinal(_sorted[middle].Key, key);
            if (order == 0)
            {
                return _sorted[middle].Value;
            }

            (low, high) = order < 0 ? (middle + 1, high) : (low, middle - 1);
        }

        return null;
    }

    /// <summary>The set with one answer replaced; null takes it out.</summary>
    public AnswerSet With(string key, AnswerValue? value)
    {
        var others = _sorted.Where(a => a.Key != key);
        return Of(value is null ? others : others.Append(new(key, value)));
    }

    /// <summary>The set with answers replaced; one that is blank is taken out, except where a default would come back in its place.</summary>
    /// <param name="answers">The answers given; others stay as they are.</param>
    /// <param name="hasDefault">Whether a field has a default.</param>
    public AnswerSet With(AnswerSet answers, Func<string, bool> hasDefault) =>
        Of(_sorted.Where(a => answers.Find(a.Key) is null).Concat(answers._sorted.Where(a => !a.Value.IsBlank || hasDefault(a.Key))));

    /// <inheritdoc/>
    public bool Equals(AnswerSet? other) => other is not null && _sorted.AsSpan().SequenceEqual(other._sorted);

    /// <inheritdoc/>
    public override bool Equals(object? obj) => Equals(obj as AnswerSet);

    /// <inheritdoc/>
    public override int GetHashCode() => _sorted.Aggregate(17, static (hash, a) => HashCode.Combine(hash, a.Key, a.Value));

    /// <inheritdoc/>
    public IEnumerator<KeyValuePair<string, AnswerValue>> GetEnumerator() => _sorted.AsEnumerable().GetEnumerator();

    IEnumerator IEnumerable.GetEnumerator() => GetEnumerator();

    // What was kept is sorted already.
    private static bool IsSorted(KeyValuePair<string, AnswerValue>[] answers)
    {
        for (var i = 1; i < answers.Length; i++)
        {
            if (string.CompareOrdinal(answers[i - 1].Key, answers[i].Key) >= 0)
            {
                return false;
            }
        }

        return true;
    }

    private static KeyValuePair<string, AnswerValue>[] Sort(KeyValuePair<string, AnswerValue>[] answers)
    {
        var sorted = answers.OrderBy(static a => a.Key, StringComparer.Ordinal).ToArray();
        return [.. sorted.Where((a, i) => i == sorted.Length - 1 || a.Key != sorted[i + 1].Key)];
    }

    private sealed class AnswerSetConverter : JsonConverter<AnswerSet>
    {
        public override AnswerSet Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
        {
            if (reader.TokenType != JsonTokenType.StartObject)
            {
                throw new JsonException("Answers are an object.");
            }

            var given = new List<KeyValuePair<string, AnswerValue>>();
            while (reader.Read() && reader.TokenType == JsonTokenType.PropertyName)
            {
                var key = LenientText.Read(ref reader);
                reader.Read();

                // A null says that nothing was given.
                if (reader.TokenType != JsonTokenType.Null)
                {
                    given.Add(new(key, Read(ref reader, key, options)));
                }
            }

            return Of(given);
        }

        private static AnswerValue Read(ref Utf8JsonReader reader, string key, JsonSerializerOptions options)
        {
            try
            {
                return AnswerValueConverter.Read(ref reader, options);
            }
            catch (JsonException unreadable)
            {
                throw new JsonException(unreadable.Message, $"$.{key}", null, null, unreadable);
            }
        }

        public override void Write(Utf8JsonWriter writer, AnswerSet value, JsonSerializerOptions options)
        {
            writer.WriteStartObject();
            foreach (var (key, answer) in value._sorted)
            {
                writer.WritePropertyName(key);
                JsonSerializer.Serialize(writer, answer, options);
            }

            writer.WriteEndObject();
        }
    }
}
