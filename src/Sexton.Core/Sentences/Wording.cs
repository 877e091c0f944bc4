using System.Collections.Frozen;
using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using System.Text.Json;
using Sexton.Core.Values;

namespace Sexton.Core.Sentences;

/// <summary>
/// What a shop says: every sentence of shop, form, messages, papers and refusals under its key, in the shop's own words where it has some, else as shipped. Immutable.
/// In a sentence {0} is the label of the field or the first thing that is filled in, {1} to {3} what comes after.
/// </summary>
public sealed class Wording
{
    /// <summary>The languages in which everything is shipped (BCP 47), with what each calls itself.</summary>
    public static readonly ImmutableArray<(string Tag, string Name)> Languages = [("en", "English"), ("de", "Deutsch")];

    /// <summary>All sentences as they are shipped, by key.</summary>
    public static readonly FrozenDictionary<string, LanguageMap> Shipped = Read();

    /// <summary>What a shop says that has no words of its own.</summary>
    public static readonly Wording Usual = new(OwnSentences.None);

    private readonly FrozenDictionary<string, LanguageMap> _all;

    /// <summary>What a shop with some words of its own says; words for what there is not are passed over.</summary>
    public Wording(OwnSentences own)
    {
        var changed = own.Said.Where(static s => Shipped.ContainsKey(s.Key)).ToList();
        _all =
            changed.Count == 0
                ? Shipped
                : Shipped
                    .Select(s => KeyValuePair.Create(s.Key, own.Said.TryGetValue(s.Key, out var said) ? said.Over(s.Value) : s.Value))
                    .ToFrozenDictionary(StringComparer.Ordinal);
    }

    /// <summary>A sentence in all its languages.</summary>
    /// <exception cref="KeyNotFoundException">There is no sentence with this key.</exception>
    public LanguageMap this[string key] => _all[key];

    /// <summary>Whether a sentence is as it is shipped.</summary>
    public bool IsUsual(string key) => ReferenceEquals(_all, Shipped) || _all[key].Equals(Shipped[key]);

    /// <summary>A sentence, filled in.</summary>
    /// <param name="key">Its key.</param>
    /// <param name="language">The language of whoever reads it (BCP 47).</param>
    /// <param name="parts">What is filled in, the first for {0}.</param>
    /// <example><code>Wording.Usual.Say("unit.of_several", "de", "Platz", "1", "3") // "Platz 1 von 3"</code></example>
    public string Say(string key, string language, params ReadOnlySpan<string?> parts) => Fill(_all[key].In(language), parts);

    /// <summary>The sentences whose keys begin with one of some words, by key.</summary>
    /// <param name="language">The language of whoever reads them.</param>
    /// <param name="groups">What the keys begin with, such as "shop.".</param>
    public ImmutableSortedDictionary<string, string> In(string language, params ImmutableArray<string> groups) =>
        _all.Where(s => groups.Any(g => s.Key.StartsWith(g, StringComparison.Ordinal)))
            .ToImmutableSortedDictionary(static s => s.Key, s => s.Value.In(language), StringComparer.Ordinal);

    /// <summary>Fills a sentence in, in one pass: what is filled in is never looked at again, whatever it has in it.</summary>
    public static string Fill(string sentence, params ReadOnlySpan<string?> parts)
    {
        var filled = new DefaultInterpolatedStringHandler(sentence.Length, 3, null, stackalloc char[256]);
        var rest = sentence.AsSpan();
        for (var at = rest.IndexOf('{'); at >= 0; at = rest.IndexOf('{'))
        {
            filled.AppendFormatted(rest[..at]);
            var isPart = rest[at..] is ['{', >= '0' and <= '3', '}', ..];
            filled.AppendFormatted(isPart ? (rest[at + 1] - '0' < parts.Length ? parts[rest[at + 1] - '0'] ?? "" : "") : "{");
            rest = rest[(at + (isPart ? 3 : 1))..];
        }

        filled.AppendFormatted(rest);
        return filled.ToStringAndClear();
    }

    private static FrozenDictionary<string, LanguageMap> Read()
    {
        using var file = typeof(Wording).Assembly.GetManifestResourceStream("sentences.json")!;
        return JsonSerializer.Deserialize<Dictionary<string, LanguageMap>>(file)!.ToFrozenDictionary(StringComparer.Ordinal);
    }
}
