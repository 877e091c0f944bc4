using System.Collections.Immutable;

namespace Sexton.Core.Register.Types;

/// <summary>
/// A postal address in four parts: street, postcode, town, country (ISO 3166-1 alpha-2). As text: street, "postcode town", country, a line each.
/// </summary>
public sealed class PostalAddress : FieldType
{
    /// <summary>The countries that the shop delivers to, with their English short names (ISO 3166-1).</summary>
    public static readonly ImmutableSortedDictionary<string, string> Countries = new Dictionary<string, string>(StringComparer.Ordinal)
    {
        ["AT"] = "Austria",
        ["BE"] = "Belgium",
        ["DE"] = "Germany",
        ["DK"] = "Denmark",
        ["FR"] = "France",
        ["GB"] = "United Kingdom",
        ["IE"] = "Ireland",
        ["NL"] = "Netherlands",
    }.ToImmutableSortedDictionary(StringComparer.Ordinal);

    private static readonly ImmutableArray<string> PartNames = ["street", "postcode", "town", "country"];

    /// <inheritdoc/>
    public override string Key => "postal_address";

    /// <inheritdoc/>
    public override string Name => "a postal address";

    /// <inheritdoc/>
    public override string ShortName => "address";

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) => new Rule();

    private sealed class Rule : AnswerRule
    {
        private const int LongestPart = 60;

        // Street, "postcode town", the longest country, and two line ends.
        public override int LongestText => LongestPart + (LongestPart + 1 + LongestPart) + 14 + 2;

        public override Reading Read(AnswerValue raw)
        {
            if (raw.Parts is null)
            {
                return raw.Text is { Length: 0 } ? Reading.Empty : Reading.Refused(RefusalCodes.NotText);
            }

            var line = new LineRule(LongestPart);
            var parts = new Dictionary<string, string>(StringComparer.Ordinal);
            foreach (var name in PartNames)
            {
                var reading = line.Read(AnswerValue.Of(raw.Parts.GetValueOrDefault(name, "")));
                if (reading.Refusal is { } refusal)
                {
                    return Reading.Refused(refusal.Code, name, [.. refusal.Details]);
                }

                parts[name] = reading.Text;
            }

            if (parts.All(static p => p.Value.Length == 0 || p.Key is "country"))
            {
                return Reading.Empty;
            }

            // A postcode is not wanted: parts of Ireland and the countries' own forms do without.
            foreach (var name in PartNames.Where(static n => n is not "postcode"))
            {
                if (parts[name].Length == 0)
                {
                    return Reading.Refused(RefusalCodes.PartMissing, name, name);
                }
            }

            if (!Countries.TryGetValue(parts["country"], out var country))
            {
                return Reading.Refused(RefusalCodes.UnknownCountry, "country", parts["country"]);
            }

            var town = parts["postcode"].Length == 0 ? parts["town"] : parts["postcode"] + " " + parts["town"];
            return Reading.Of(AnswerValue.Of(parts), string.Join('\n', parts["street"], town, country));
        }
    }
}
