using System.Collections.Immutable;

namespace Sexton.Core.Types;

/// <summary>
/// Countries by their code (ISO 3166-1 alpha-2, all 249), with their English names of the Unicode CLDR. Shipped as a file and not asked of the
/// machine, whose data differs from one to the next.
/// </summary>
internal static class Regions
{
    /// <summary>All countries, by name.</summary>
    public static readonly ImmutableArray<KeyValuePair<string, string>> All =
    [
        .. Read().OrderBy(static c => c.Value, StringComparer.Ordinal),
    ];

    private static readonly ImmutableDictionary<string, string> Names = All.ToImmutableDictionary(StringComparer.Ordinal);

    /// <summary>The name of a country, or its code where it has none here.</summary>
    public static string NameOf(string code) => Names.GetValueOrDefault(code, code);

    /// <summary>Some countries, by name.</summary>
    public static ImmutableArray<KeyValuePair<string, string>> Of(IEnumerable<string> codes) =>
        [.. codes.Select(static c => KeyValuePair.Create(c, NameOf(c))).OrderBy(static c => c.Value, StringComparer.Ordinal)];

    private static IEnumerable<KeyValuePair<string, string>> Read()
    {
        using var file = new StreamReader(typeof(Regions).Assembly.GetManifestResourceStream("countries.txt")!);
        while (file.ReadLine() is { } line)
        {
            yield return KeyValuePair.Create(line[..2], line[3..]);
        }
    }
}
