using System.Collections.Frozen;
using System.Collections.Immutable;
using System.Text.RegularExpressions;

namespace Sexton.Core.Types;

/// <summary>
/// How an address is built in a country: which parts stand on which line, what its postcodes look like, and what people call them there. The lines are
/// those of the countries' postal operators as the Universal Postal Union lists them, written from memory; tests compare them with a published table.
/// </summary>
/// <param name="Country">The country (ISO 3166-1 alpha-2); "" for one that is not known yet.</param>
/// <param name="Lines">The lines, each of one part or of two with a space between.</param>
/// <param name="NeedsPostcode">Whether nothing arrives without a postcode.</param>
/// <param name="Example">What a postcode looks like.</param>
/// <param name="Shape">What every postcode fits, as it is written in the country.</param>
internal sealed partial record AddressFormat(string Country, ImmutableArray<string> Lines, bool NeedsPostcode, string Example, Regex Shape)
{
    private static readonly ImmutableArray<string> PostcodeFirst = ["street", "extra", "postcode town"];

    private static readonly FrozenDictionary<string, AddressFormat> Known = new AddressFormat[]
    {
        new("AT", PostcodeFirst, true, "1010", Austrian()),
        new("BE", PostcodeFirst, true, "1000", FourDigits()),
        new("DE", PostcodeFirst, true, "28195", FiveDigits()),
        new("DK", PostcodeFirst, true, "8000", FourDigits()),
        new("FR", PostcodeFirst, true, "69001", FiveDigits()),
        new("GB", ["street", "extra", "town", "postcode"], true, "SW1A 1AA", British()),
        new("IE", ["street", "extra", "town", "region", "postcode"], false, "A65 F4E2", Irish()),
        new("NL", PostcodeFirst, true, "1012 AB", Dutch()),
    }.ToFrozenDictionary(static f => f.Country, StringComparer.Ordinal);

    /// <summary>The address of a country that nobody chose yet, or that is not delivered to.</summary>
    public static AddressFormat Unknown { get; } = new("", PostcodeFirst, false, "", Anything());

    /// <summary>The countries with a format of their own.</summary>
    public static IEnumerable<string> Countries => Known.Keys;

    /// <summary>The parts in the order of their lines, without the country.</summary>
    public ImmutableArray<string> Parts { get; } = [.. Lines.SelectMany(static l => l.Split(' '))];

    /// <summary>The format of a country, or <see cref="Unknown"/>.</summary>
    public static AddressFormat Of(string country) => Known.GetValueOrDefault(country, Unknown);

    /// <summary>The key of the sentence that names a part.</summary>
    public string SentenceOf(string part) => "address." + (part == PostalAddress.Postcode && Country == "IE" ? "eircode" : part);

    /// <summary>Whether a part must be filled in.</summary>
    public bool Needs(string part) => part is "street" or "town" || (part == "postcode" && NeedsPostcode);

    /// <summary>A postcode as it is written in the country, or null when it cannot be one.</summary>
    public string? Postcode(string typed)
    {
        var bare = string.Concat(typed.Where(static c => c is not (' ' or '-'))).ToUpperInvariant();
        var written = Country switch
        {
            "GB" when bare.Length > 3 => bare[..^3] + " " + bare[^3..],
            "IE" when bare.Length == 7 => bare[..3] + " " + bare[3..],
            "NL" when bare.Length == 6 => bare[..4] + " " + bare[4..],
            _ => bare,
        };
        return Shape.IsMatch(written) ? written : null;
    }

    /// <summary>The lines of an address, empty ones left out, without the country.</summary>
    public IEnumerable<string> Write(IReadOnlyDictionary<string, string> parts) =>
        Lines
            .Select(line => string.Join(' ', line.Split(' ').Select(p => parts.GetValueOrDefault(p, "")).Where(static t => t.Length > 0)))
            .Where(static line => line.Length > 0);

    [GeneratedRegex(@"\A[1-9][0-9]{3}\z", RegexOptions.NonBacktracking)]
    private static partial Regex Austrian();

    [GeneratedRegex(@"\A[0-9]{4}\z", RegexOptions.NonBacktracking)]
    private static partial Regex FourDigits();

    [GeneratedRegex(@"\A[0-9]{5}\z", RegexOptions.NonBacktracking)]
    private static partial Regex FiveDigits();

    [GeneratedRegex(@"\A(GIR 0AA|[A-Z]{1,2}[0-9][A-Z0-9]? [0-9][A-Z]{2})\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex British();

    [GeneratedRegex(
        @"\A([AC-FHKNPRTV-Y][0-9]{2}|D6W) [0-9AC-FHKNPRTV-Y]{4}\z",
        RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture
    )]
    private static partial Regex Irish();

    [GeneratedRegex(@"\A[1-9][0-9]{3} [A-Z]{2}\z", RegexOptions.NonBacktracking)]
    private static partial Regex Dutch();

    [GeneratedRegex("", RegexOptions.NonBacktracking)]
    private static partial Regex Anything();
}
