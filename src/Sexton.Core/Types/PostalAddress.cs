using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization;
using Sexton.Core.Facts;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>
/// A postal address in the parts that its country uses: street, extra, town, postcode, region, and the country itself (ISO 3166-1 alpha-2). As text
/// it stands in the lines of its country, with the country's name below.
/// </summary>
public sealed class PostalAddress : FieldType
{
    /// <summary>The key of the kind.</summary>
    public const string TypeKey = "postal_address";

    /// <summary>The parts beside the country.</summary>
    public const string Street = "street",
        Extra = "extra",
        Town = "town",
        Postcode = "postcode",
        Region = "region";

    /// <summary>The part that holds the country.</summary>
    public const string Land = "country";

    /// <summary>The parts in the order in which the form asks for them, with what staff call them.</summary>
    public static readonly ImmutableArray<(string Key, string Name)> PartNames =
    [
        (Land, "country"),
        (Street, "street"),
        (Extra, "flat or building"),
        (Town, "town"),
        (Region, "county"),
        (Postcode, "postcode"),
    ];

    /// <summary>The countries that the shop delivers to, with their English short names (ISO 3166-1).</summary>
    public static readonly ImmutableSortedDictionary<string, string> Countries = AddressFormat.Countries.ToImmutableSortedDictionary(
        static c => c,
        Regions.NameOf,
        StringComparer.Ordinal
    );

    /// <inheritdoc/>
    public override string Key => TypeKey;

    /// <inheritdoc/>
    public override string Name => "a postal address";

    /// <inheritdoc/>
    public override string ShortName => "address";

    /// <inheritdoc/>
    public override string Line => "street, town and country, as each country writes them";

    /// <inheritdoc/>
    public override bool IsPersonal => true;

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) => new Rule(settings.Shop);

    private sealed class Rule(Sentences.Wording shop) : AnswerRule
    {
        private const int LongestPart = 60;

        // Street, extra, town and region, the longest postcode, the longest name of a country, and five line ends.
        public override int LongestText =>
            (4 * LongestPart) + 8 + Countries.Keys.Max(static c => Regions.NamesOf(c).Texts.Values.Max(static n => n.Length)) + 5;

        public override bool IsWrittenIn(Func<string, bool> hasAll) => false;

        public override FactKind Fact => FactKind.Other;

        public override ImmutableDictionary<string, JsonElement> ForTheForm(string language) =>
            ImmutableDictionary<string, JsonElement>.Empty.Add(
                "countries",
                JsonSerializer.SerializeToElement(
                    Countries
                        .Keys.Select(c => Form(AddressFormat.Of(c), Regions.NamesOf(c).In(language), language))
                        .OrderBy(static f => f.Name, StringComparer.Create(LanguageTag.CultureOf(language), ignoreCase: true))
                        .Prepend(Form(AddressFormat.Unknown, "", language))
                )
            );

        public override JsonObject Schema =>
            new()
            {
                ["type"] = "object",
                ["required"] = new JsonArray("street", "town", Land),
                ["additionalProperties"] = new JsonObject { ["type"] = "string" },
            };

        public override ImmutableArray<AnswerValue> Samples =>
            [
                AnswerValue.Of(
                    new Dictionary<string, string>(StringComparer.Ordinal)
                    {
                        ["street"] = "Quarry Lane 4",
                        ["town"] = "Aldmoor",
                        [Land] = "IE",
                    }
                ),
                AnswerValue.Of(
                    new Dictionary<string, string>(StringComparer.Ordinal)
                    {
                        ["street"] = "Am Wall 1",
                        ["postcode"] = "28195",
                        ["town"] = "Bremen",
                        [Land] = "DE",
                    }
                ),
            ];

        public override Reading Read(AnswerValue raw, IAnswerContext context)
        {
            if (raw.Parts is null)
            {
                return Reading.Refused(RefusalKeys.NotText);
            }

            var country = raw.Parts.GetValueOrDefault(Land, "").Trim();
            var format = AddressFormat.Of(country);
            var line = new LineRule(LongestPart);
            var parts = new Dictionary<string, string>(StringComparer.Ordinal);
            foreach (var name in format.Parts)
            {
                if (!CanonicalText.TryMake(raw.Parts.GetValueOrDefault(name, ""), out var text))
                {
                    return Reading.Refused(new Refusal(RefusalKeys.NotText, Part: name));
                }

                if (line.CheckLine(text, context) is { } refusal)
                {
                    return Reading.Refused(refusal with { Part = name });
                }

                parts[name] = CanonicalText.IsBlank(text) ? "" : text;
            }

            // A country that the page chose by itself is no address yet.
            return parts.Values.All(static p => p.Length == 0) ? Reading.Empty : Check(country, format, parts, context.Language);
        }

        public override string TextOf(AnswerValue value, string language)
        {
            var country = value.Parts![Land];
            return string.Join('\n', AddressFormat.Of(country).Write(value.Parts).Append(Regions.NamesOf(country).In(language)));
        }

        private Reading Check(string country, AddressFormat format, Dictionary<string, string> parts, string language)
        {
            if (format.Parts.FirstOrDefault(p => format.Needs(p) && parts[p].Length == 0) is { } missing)
            {
                return Reading.Refused(new Refusal(RefusalKeys.PartMissing, shop.Say(format.SentenceOf(missing), language), Part: missing));
            }

            if (format == AddressFormat.Unknown)
            {
                return Reading.Refused(
                    country.Length == 0
                        ? new Refusal(RefusalKeys.PartMissing, shop.Say(format.SentenceOf(Land), language), Part: Land)
                        : new Refusal(RefusalKeys.UnknownCountry, Part: Land)
                );
            }

            if (parts["postcode"].Length > 0)
            {
                if (format.Postcode(parts["postcode"]) is not { } postcode)
                {
                    return Reading.Refused(
                        new Refusal("wrong_postcode", format.Example, Regions.NamesOf(country).In(language), "postcode")
                    );
                }

                parts["postcode"] = postcode;
            }

            parts[Land] = country;
            return Reading.Of(AnswerValue.Of(parts));
        }

        private FormCountry Form(AddressFormat format, string name, string language) =>
            new(
                format.Country,
                name,
                [.. format.Parts.Select(p => new FormPart(p, shop.Say(format.SentenceOf(p), language), format.Needs(p)))],
                shop.Say(format.SentenceOf(Land), language)
            );
    }

    // As the form reads it.
    private sealed record FormCountry(
        [property: JsonPropertyName("code")] string Code,
        [property: JsonPropertyName("name")] string Name,
        [property: JsonPropertyName("parts")] ImmutableArray<FormPart> Parts,
        [property: JsonPropertyName("land")] string Land
    );

    private sealed record FormPart(
        [property: JsonPropertyName("name")] string Name,
        [property: JsonPropertyName("label")] string Label,
        [property: JsonPropertyName("required")] bool Required
    );
}
