using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Sentences;
using Sexton.Core.Values;

namespace Sexton.Core.Register.Edits;

/// <summary>
/// Changes to what the shop says: "said.KEY.LANGUAGE" for one sentence in one language, where null says it as shipped; "said" for all that is in words of its own;
/// "category.NAME.LANGUAGE" for what shoppers read for a category, where null has its name in the catalogue.
/// </summary>
public static class SentenceEdit
{
    /// <summary>How many characters a sentence may have.</summary>
    public const int Longest = 1000;

    private const string Said = "said",
        Category = "category";

    /// <summary>What stands under a path; null for as shipped.</summary>
    /// <exception cref="DraftEditException">There is no such sentence.</exception>
    public static JsonElement Read(OwnSentences own, string path)
    {
        if (path == Said)
        {
            return EditValue.Json(own.Said);
        }

        var (group, key, language) = Split(path);
        var all = group == Said ? own.Said : own.Categories;
        return EditValue.Json(all.GetValueOrDefault(key, LanguageMap.Empty).Texts.GetValueOrDefault(language));
    }

    /// <summary>The sentences with some changed.</summary>
    /// <param name="own">The sentences in words of the shop's own.</param>
    /// <param name="path">The path.</param>
    /// <param name="value">The sentence; null for as shipped.</param>
    /// <exception cref="DraftEditException">There is no such sentence, or what it fills in is not in it.</exception>
    public static OwnSentences Apply(OwnSentences own, string path, JsonElement value)
    {
        if (path != Said)
        {
            var (group, key, language) = Split(path);
            var text = Text(value, path);
            return group == Said ? With(own, key, language, text, path) : own with { Categories = Named(own, key, language, text, path) };
        }

        if (value.ValueKind != JsonValueKind.Object || value.EnumerateObject().Any(static k => k.Value.ValueKind != JsonValueKind.Object))
        {
            throw new DraftEditException(path, "Give an object of languages by the key of each sentence.");
        }

        return value
            .EnumerateObject()
            .SelectMany(static k => k.Value.EnumerateObject().Select(l => (Key: k.Name, Language: l.Name, l.Value)))
            .Aggregate(
                own with
                {
                    Said = OwnSentences.None.Said,
                },
                (all, s) => With(all, s.Key, s.Language, Text(s.Value, $"{s.Key}.{s.Language}"), $"{s.Key}.{s.Language}")
            );
    }

    /// <summary>The sentences with one changed in one language.</summary>
    /// <param name="own">The sentences in words of the shop's own.</param>
    /// <param name="key">Its key.</param>
    /// <param name="language">The language.</param>
    /// <param name="text">What is said; "" for as shipped, and so is what is shipped.</param>
    /// <param name="path">What an error names.</param>
    /// <exception cref="DraftEditException">There is no such sentence or language, or what it fills in is not in it.</exception>
    public static OwnSentences With(OwnSentences own, string key, string language, string text, string path)
    {
        if (!Wording.Shipped.TryGetValue(key, out var shipped))
        {
            throw new DraftEditException(path, $"There is no sentence “{key}”.");
        }

        CheckLanguage(language, shipped.Texts.Keys, path);
        // In a message a line of its own could pass for an answer.
        if (text.Contains('\n', StringComparison.Ordinal))
        {
            throw new DraftEditException(path, "Give it on one line.");
        }

        if (text.Length > 0 && Unknown(text, shipped) is { } unknown)
        {
            throw new DraftEditException(path, $"Nothing is filled in for {unknown} here. Take it out, or use one of: {Filled(shipped)}.");
        }

        var said = own.Said.GetValueOrDefault(key, LanguageMap.Empty).With(language, text == shipped.Texts[language] ? "" : text);
        return own with { Said = said.IsEmpty ? own.Said.Remove(key) : own.Said.SetItem(key, said) };
    }

    private static string Text(JsonElement value, string path) =>
        value.ValueKind == JsonValueKind.Null ? "" : EditValue.Text(value, path, Longest);

    private static ImmutableSortedDictionary<string, LanguageMap> Named(
        OwnSentences own,
        string category,
        string language,
        string text,
        string path
    )
    {
        CheckLanguage(language, Wording.Languages.Select(static l => l.Tag), path);
        var isUsual = language == LanguageMap.Fallback && text == category;
        var named = own.Categories.GetValueOrDefault(category, LanguageMap.Empty).With(language, isUsual ? "" : text);
        return named.IsEmpty ? own.Categories.Remove(category) : own.Categories.SetItem(category, named);
    }

    private static void CheckLanguage(string language, IEnumerable<string> languages, string path)
    {
        if (!languages.Contains(language, StringComparer.Ordinal))
        {
            throw new DraftEditException(path, $"“{language}” is none of the languages: {string.Join(", ", languages)}.");
        }
    }

    // Keys and names have dots within them, languages have none.
    private static (string Group, string Key, string Language) Split(string path)
    {
        var (group, rest) = EditValue.Split(path);
        var dot = rest.LastIndexOf('.');
        return group is Said or Category && dot > 0
            ? (group, rest[..dot], rest[(dot + 1)..])
            : throw new DraftEditException(path, $"What the shop says has no setting “{path}”.");
    }

    private static string? Unknown(string text, LanguageMap shipped) =>
        Parts.FirstOrDefault(p => text.Contains(p, StringComparison.Ordinal) && !Fills(shipped, p));

    private static string Filled(LanguageMap shipped) => string.Join(", ", Parts.Where(p => Fills(shipped, p)).DefaultIfEmpty("none"));

    private static bool Fills(LanguageMap shipped, string part) =>
        shipped.Texts.Values.Any(t => t.Contains(part, StringComparison.Ordinal));

    private static readonly string[] Parts = ["{0}", "{1}", "{2}", "{3}"];
}
