using System.Collections.Concurrent;
using System.Globalization;

namespace Sexton.Core.Values;

/// <summary>Tags of languages (BCP 47), and how each writes.</summary>
public static class LanguageTag
{
    private const int Longest = 35;

    // A shop has few languages; more than these are made up by whoever sends them, and are not worth keeping.
    private const int MostKept = 64;

    private static readonly ConcurrentDictionary<string, CultureInfo> Known = new(StringComparer.Ordinal);

    /// <summary>Whether a text has the shape of a tag: subtags of letters and digits, the first of letters only, joined by hyphens (RFC 5646, 2.1).</summary>
    public static bool IsWellFormed(string? tag) =>
        tag is { Length: >= 2 and <= Longest }
        && tag.Split('-') is var parts
        && parts[0] is { Length: >= 2 and <= 8 } first
        && first.All(char.IsAsciiLetter)
        && parts.Skip(1).All(static p => p.Length is >= 1 and <= 8 && p.All(char.IsAsciiLetterOrDigit));

    /// <summary>How a language writes dates and numbers; as British English does where it is not known. English without a country is British.</summary>
    public static CultureInfo CultureOf(string tag)
    {
        if (Known.TryGetValue(tag, out var known))
        {
            return known;
        }

        var culture = Find(tag == LanguageMap.Fallback ? "en-GB" : tag) ?? Find("en-GB") ?? CultureInfo.InvariantCulture;
        return Known.Count < MostKept ? Known.GetOrAdd(tag, culture) : culture;
    }

    private static CultureInfo? Find(string tag)
    {
        try
        {
            return IsWellFormed(tag) ? CultureInfo.GetCultureInfo(tag, predefinedOnly: true) : null;
        }
        catch (CultureNotFoundException)
        {
            return null;
        }
    }
}
