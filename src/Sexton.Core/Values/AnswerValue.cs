using System.Collections.Immutable;
using System.Globalization;
using System.Runtime.InteropServices;
using System.Text.Json.Serialization;

namespace Sexton.Core.Values;

/// <summary>
/// What was entered for a field, before or after it was made canonical. In JSON a string, a number, true or false, an array of strings
/// (several picked), an object of strings (named parts, as of an address), or an array of files. Immutable; compared by content.
/// </summary>
[JsonConverter(typeof(AnswerValueConverter))]
public sealed class AnswerValue : IEquatable<AnswerValue>
{
    /// <summary>The answer yes.</summary>
    public static readonly AnswerValue Yes = new(Kind.Yes, null);

    /// <summary>The answer no.</summary>
    public static readonly AnswerValue No = new(Kind.No, null);

    // A text, an array of picks or of files, or a dictionary of parts. One field for all keeps an answer within one line of the processor's cache: a cart
    // has hundreds, and reaching them costs more than reading them.
    private readonly object? _held;
    private readonly decimal _number;
    private readonly Kind _kind;

    private AnswerValue(Kind kind, object? held, decimal number = 0) => (_kind, _held, _number) = (kind, held, number);

    private enum Kind : byte
    {
        Text,
        Number,
        Yes,
        No,
        Picks,
        Parts,
        Files,
    }

    /// <summary>The text, or null when the answer is something else.</summary>
    public string? Text => _kind == Kind.Text ? (string)_held! : null;

    /// <summary>The exact number, or null when the answer is something else.</summary>
    public decimal? Number => _kind == Kind.Number ? _number : null;

    /// <summary>Yes or no, or null when the answer is something else.</summary>
    public bool? Truth =>
        _kind switch
        {
            Kind.Yes => true,
            Kind.No => false,
            _ => null,
        };

    /// <summary>What was picked, in order; null when the answer is something else.</summary>
    public ImmutableArray<string>? Picks => _kind == Kind.Picks ? ImmutableCollectionsMarshal.AsImmutableArray((string[])_held!) : null;

    /// <summary>The parts by name, or null when the answer is something else.</summary>
    public ImmutableSortedDictionary<string, string>? Parts =>
        _kind == Kind.Parts ? (ImmutableSortedDictionary<string, string>)_held! : null;

    /// <summary>The files, in the order in which they were chosen; null when the answer is something else.</summary>
    public ImmutableArray<FileValue>? Files =>
        _kind == Kind.Files ? ImmutableCollectionsMarshal.AsImmutableArray((FileValue[])_held!) : null;

    /// <summary>An answer of one text.</summary>
    public static AnswerValue Of(string text) => new(Kind.Text, text);

    /// <summary>An answer of a number.</summary>
    public static AnswerValue Of(decimal number) => new(Kind.Number, null, number);

    /// <summary>Yes or no.</summary>
    public static AnswerValue Of(bool truth) => truth ? Yes : No;

    /// <summary>An answer of several picks.</summary>
    public static AnswerValue Of(ImmutableArray<string> picks) => new(Kind.Picks, ImmutableCollectionsMarshal.AsArray(picks) ?? []);

    /// <summary>An answer of files.</summary>
    public static AnswerValue Of(ImmutableArray<FileValue> files) => new(Kind.Files, ImmutableCollectionsMarshal.AsArray(files) ?? []);

    /// <summary>An answer of named parts.</summary>
    public static AnswerValue Of(IEnumerable<KeyValuePair<string, string>> parts) =>
        new(Kind.Parts, parts.ToImmutableSortedDictionary(StringComparer.Ordinal));

    /// <summary>True for an answer in which nothing was entered: a blank text, no picks, no files, or only blank parts.</summary>
    public bool IsBlank =>
        _kind switch
        {
            Kind.Text => CanonicalText.IsBlank((string)_held!),
            Kind.Picks => ((string[])_held!).Length == 0,
            Kind.Files => ((FileValue[])_held!).Length == 0,
            Kind.Parts => Parts!.All(static p => CanonicalText.IsBlank(p.Value)),
            _ => false,
        };

    /// <summary>Whether every text in it can be kept: a database of texts has no room for U+0000, and what stood for half a character is lost already.</summary>
    public bool CanBeKept =>
        _kind switch
        {
            Kind.Text => CanonicalText.CanBeKept((string)_held!),
            Kind.Picks => Array.TrueForAll((string[])_held!, CanonicalText.CanBeKept),
            Kind.Files => Array.TrueForAll((FileValue[])_held!, static f => CanonicalText.CanBeKept(f.Name)),
            Kind.Parts => Parts!.All(static p => CanonicalText.CanBeKept(p.Key) && CanonicalText.CanBeKept(p.Value)),
            _ => true,
        };

    /// <inheritdoc/>
    public bool Equals(AnswerValue? other) =>
        ReferenceEquals(this, other)
        || (
            other is not null
            && _kind == other._kind
            && _kind switch
            {
                Kind.Text => string.Equals(Text, other.Text, StringComparison.Ordinal),
                Kind.Number => _number == other._number,
                Kind.Picks => ((string[])_held!).AsSpan().SequenceEqual((string[])other._held!),
                Kind.Files => ((FileValue[])_held!).AsSpan().SequenceEqual((FileValue[])other._held!),
                Kind.Parts => Parts!.SequenceEqual(other.Parts!),
                _ => true,
            }
        );

    /// <inheritdoc/>
    public override bool Equals(object? obj) => Equals(obj as AnswerValue);

    /// <inheritdoc/>
    public override int GetHashCode()
    {
        var hash = new HashCode();
        hash.Add(Text, StringComparer.Ordinal);
        hash.Add(Number);
        hash.Add(Truth);
        foreach (var pick in Picks ?? [])
        {
            hash.Add(pick, StringComparer.Ordinal);
        }

        foreach (var file in Files ?? [])
        {
            hash.Add(file);
        }

        foreach (var (name, text) in Parts ?? ImmutableSortedDictionary<string, string>.Empty)
        {
            hash.Add(name, StringComparer.Ordinal);
            hash.Add(text, StringComparer.Ordinal);
        }

        return hash.ToHashCode();
    }

    /// <summary>The answer as plain words, for messages to staff.</summary>
    public override string ToString() =>
        Text
        ?? Number?.ToString(CultureInfo.InvariantCulture)
        ?? (
            Truth is { } truth
                ? (truth ? "yes" : "no")
                : string.Join(
                    ", ",
                    Picks ?? (Files is { } files ? [.. files.Select(static f => f.TextIn(LanguageMap.Fallback))] : [.. Parts!.Values])
                )
        );
}
