using System.Collections.Immutable;
using Sexton.Core.Values;

namespace Sexton.Core.Sentences;

/// <summary>What a shop says instead of the sentences that are shipped: part of its register, and so drafted, published and undone like everything in it.</summary>
public sealed record OwnSentences
{
    /// <summary>The key under which they stand in the draft.</summary>
    public const string Key = "own-sentences";

    /// <summary>Nothing in words of its own.</summary>
    public static readonly OwnSentences None = new();

    /// <summary>By the key of the sentence; a language that is not there is said as shipped.</summary>
    public ImmutableSortedDictionary<string, LanguageMap> Said { get; init; } =
        ImmutableSortedDictionary.Create<string, LanguageMap>(StringComparer.Ordinal);

    /// <summary>What shoppers read for categories of the catalogue, by the name that these have there; a language that is not there has that name.</summary>
    public ImmutableSortedDictionary<string, LanguageMap> Categories { get; init; } =
        ImmutableSortedDictionary.Create<string, LanguageMap>(StringComparer.Ordinal);

    /// <summary>What shoppers read for a category.</summary>
    /// <param name="category">Its name in the catalogue.</param>
    /// <param name="language">The language (BCP 47).</param>
    public string CategoryIn(string category, string language) =>
        Categories.GetValueOrDefault(category, LanguageMap.Empty).Over(LanguageMap.Of(category)).In(language);
}
