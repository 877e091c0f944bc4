using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace Sexton.Core.Values;

/// <summary>
/// A text in one or more languages, keyed by BCP 47 tag ("en", "de-AT"). Immutable; compared by content.
/// </summary>
[JsonConverter(typeof(LanguageMapConverter))]
public sealed class LanguageMap : IEquatable<LanguageMap>
{
    /// <summary>The language that a text falls back to when the one asked for is missing.</summary>
    public const string Fallback = "en";

    /// <summary>No text in any language.</summary>
    public static readonly LanguageMap Empty = new(ImmutableSortedDictionary.Create<string, string>(StringComparer.Ordinal));

    private readonly ImmutableSortedDictionary<string, string> _texts;

    private LanguageMap(ImmutableSortedDictionary<string, string> texts) => _texts = texts;

    /// <summary>The texts by language; a language without a text is not listed.</summary>
    public IReadOnlyDictionary<string, string> Texts => _texts;

    /// <summary>True when there is no text in any language.</summary>
    public bool IsEmpty => _texts.IsEmpty;

    /// <summary>A map with one text.</summary>
    public static LanguageMap Of(string text, string language = Fallback) => Empty.With(language, text);

    /// <summary>A text in the two languages in which everything that shoppers read is written.</summary>
    public static LanguageMap Both(string english, string german) => Of(english).With("de", german);

    /// <summary>A map with the text of one language replaced; an empty text removes the language.</summary>
    public LanguageMap With(string language, string text) =>
        new(text.Length == 0 ? _texts.Remove(language) : _texts.SetItem(language, text));

    /// <summary>These texts, and those of another where a language has none here.</summary>
    public LanguageMap Over(LanguageMap other) => new(other._texts.SetItems(_texts));

    /// <summary>The texts of all languages in one line: that of <see cref="Fallback"/> first, others behind the tag of theirs.</summary>
    /// <param name="around">What is made of each text, such as the same in quotation marks.</param>
    public string InEach(Func<string, string> around) =>
        string.Join(
            " / ",
            _texts.OrderBy(static t => t.Key != Fallback).Select(t => (t.Key == Fallback ? "" : t.Key + ": ") + around(t.Value))
        );

    /// <summary>
    /// The text for a language: that very tag, else its primary language, else <see cref="Fallback"/>, else any, else "".
    /// </summary>
    public string In(string language)
    {
        if (_texts.TryGetValue(language, out var exact))
        {
            return exact;
        }

        var dash = language.IndexOf('-', StringComparison.Ordinal);
        if (dash > 0 && _texts.TryGetValue(language[..dash], out var primary))
        {
            return primary;
        }

        return _texts.TryGetValue(Fallback, out var fallback) ? fallback : _texts.Values.FirstOrDefault() ?? "";
    }

    /// <inheritdoc/>
    public bool Equals(LanguageMap? other) => other is not null && _texts.SequenceEqual(other._texts);

    /// <inheritdoc/>
    public override bool Equals(object? obj) => Equals(obj as LanguageMap);

    /// <inheritdoc/>
    public override int GetHashCode()
    {
        var hash = new HashCode();
        foreach (var (language, text) in _texts)
        {
            hash.Add(language, StringComparer.Ordinal);
            hash.Add(text, StringComparer.Ordinal);
        }

        return hash.ToHashCode();
    }

    /// <inheritdoc/>
    public override string ToString() => In(Fallback);

    private sealed class LanguageMapConverter : JsonConverter<LanguageMap>
    {
        public override LanguageMap Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
        {
            // By hand, so that what is wrong in it is told by the path of the whole.
            var texts = ImmutableSortedDictionary.CreateBuilder<string, string>(StringComparer.Ordinal);
            if (reader.TokenType != JsonTokenType.StartObject)
            {
                throw new JsonException();
            }

            while (reader.Read() && reader.TokenType == JsonTokenType.PropertyName)
            {
                var language = reader.GetString()!;
                reader.Read();
                texts[language] = reader.TokenType == JsonTokenType.String ? reader.GetString()! : throw new JsonException();
            }

            return new LanguageMap(texts.ToImmutable());
        }

        public override void Write(Utf8JsonWriter writer, LanguageMap value, JsonSerializerOptions options)
        {
            writer.WriteStartObject();
            foreach (var (language, text) in value._texts)
            {
                writer.WriteString(language, text);
            }

            writer.WriteEndObject();
        }
    }
}
