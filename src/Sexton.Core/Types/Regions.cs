using System.Collections.Immutable;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>
/// Countries by their code (ISO 3166-1 alpha-2, all 249), with their names of the Unicode CLDR in the two languages that shoppers read. Shipped as files and not
/// asked of the machine, whose data differs from one to the next.
/// </summary>
public static class Regions
{
    private static readonly ImmutableDictionary<string, LanguageMap> Names = Read();

    /// <summary>All countries with their English names, by these.</summary>
    public static readonly ImmutableArray<KeyValuePair<string, string>> All = Of(Names.Keys);

    /// <summary>The English name of a country, or its code where it has none here.</summary>
    public static string NameOf(string code) => NamesOf(code).ToString();

    /// <summary>The names of a country; its code where it has none here.</summary>
    public static LanguageMap NamesOf(string code) => Names.GetValueOrDefault(code, LanguageMap.Of(code));

    /// <summary>Some countries with their English names, by these.</summary>
    public static ImmutableArray<KeyValuePair<string, string>> Of(IEnumerable<string> codes) =>
        [.. codes.Select(static c => KeyValuePair.Create(c, NameOf(c))).OrderBy(static c => c.Value, StringComparer.Ordinal)];

    private static ImmutableDictionary<string, LanguageMap> Read() =>
        Lines("countries.txt")
            .Zip(
                Lines("countries-de.txt"),
                static (english, german) => KeyValuePair.Create(english[..2], LanguageMap.Both(english[3..], german[3..]))
            )
            .ToImmutableDictionary(StringComparer.Ordinal);

    private static List<string> Lines(string name)
    {
        using var file = new StreamReader(typeof(Regions).Assembly.GetManifestResourceStream(name)!);
        return [.. file.ReadToEnd().Split('\n', StringSplitOptions.RemoveEmptyEntries)];
    }
}
