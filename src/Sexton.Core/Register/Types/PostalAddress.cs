using System.Collections.Immutable;
using System.Text.Json.Nodes;
using Sexton.Core.Conditions;

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

        public override FactKind Fact => FactKind.Other;

        public override JsonObject Schema => new()
        {
            ["type"] = "object",
            ["required"] = new JsonArray([.. PartNames.Select(static n => (JsonNode)JsonValue.Create(n))]),
            ["additionalProperties"] = new JsonObject { ["type"] = "string" },
        };

        public override ImmutableArray<AnswerValue> Samples =>
        [
            AnswerValue.Of(new Dictionary<string, string>(StringComparer.Ordinal) { ["street"] = "Quarry Lane 4", ["postcode"] = "", ["town"] = "Aldmoor", ["country"] = "IE" }),
        ];

        public override Reading Read(AnswerValue raw, IOccasion occasion)
        {
            if (raw.Parts is null)
            {
                return Reading.Refused(RefusalCodes.NotText);
            }

            var line = new LineRule(LongestPart);
            var parts = new Dictionary<string, string>(StringComparer.Ordinal);
            foreach (var name in PartNames)
            {
                if (!CanonicalText.TryMake(raw.Parts.GetValueOrDefault(name, ""), out var text))
                {
                    return Reading.Refused(new Refusal(RefusalCodes.NotText, Part: name));
                }

                if (line.CheckLine(text) is { } refusal)
                {
                    return Reading.Refused(refusal with { Part = name });
                }

                parts[name] = text;
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
                    return Reading.Refused(new Refusal(RefusalCodes.PartMissing, name, Part: name));
                }
            }

            return Countries.ContainsKey(parts["country"])
                ? Reading.Of(AnswerValue.Of(parts))
                : Reading.Refused(new Refusal(RefusalCodes.UnknownCountry, Part: "country"));
        }

        public override string TextOf(AnswerValue value, string language)
        {
            var parts = value.Parts!;
            var town = parts["postcode"].Length == 0 ? parts["town"] : parts["postcode"] + " " + parts["town"];
            return string.Join('\n', parts["street"], town, Countries.GetValueOrDefault(parts["country"], parts["country"]));
        }
    }
}
