using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using PhoneNumbers;
using Sexton.Core.Facts;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>A telephone number, entered in any usual way and kept as E.164 (ITU-T). A number without a country code is read as one of the home country.</summary>
public sealed class Telephone : FieldType
{
    private const string Home = "home",
        Only = "only";

    private static readonly ImmutableArray<KeyValuePair<string, string>> Numbered =
    [
        .. Regions.All.Where(static c => PhoneNumberUtil.GetInstance().GetSupportedRegions().Contains(c.Key)),
    ];

    /// <inheritdoc/>
    public override string Key => "telephone";

    /// <inheritdoc/>
    public override string Name => "a telephone number";

    /// <inheritdoc/>
    public override string ShortName => "telephone";

    /// <inheritdoc/>
    public override string Line => "a number that can be dialled, of any country";

    /// <inheritdoc/>
    public override bool IsPersonal => true;

    /// <inheritdoc/>
    public override bool TakesPlaceholder => true;

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
        new OptionSetting(Home, "read as one of {} where no country is named", "", Numbered)
        {
            Default = JsonSerializer.SerializeToElement("IE"),
        },
        new OptionSetting(Only, "only of {}", "some countries only", Numbered, several: true),
    ];

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) => new Rule(settings.Text(Home)!, settings.Texts(Only));

    /// <inheritdoc/>
    protected override IEnumerable<SettingProblem> Contradictions(SettingReader settings)
    {
        if (settings.Texts(Only) is { IsEmpty: false } only && !only.Contains(settings.Text(Home)!))
        {
            yield return new SettingProblem(
                Home,
                "A number that names no country would be read as one that is not taken. Choose one of the countries that are."
            );
        }
    }

    private sealed class Rule(string home, ImmutableArray<string> only) : AnswerRule
    {
        private readonly Refusal _otherCountry = new("other_country", string.Join(", ", Regions.Of(only).Select(static c => c.Value)));

        public override int LongestText => 16;

        public override FactKind Fact => FactKind.Text;

        public override JsonObject Schema => new() { ["type"] = "string", ["pattern"] = "^\\+[0-9]{5,15}$" };

        public override ImmutableArray<AnswerValue> Samples => [.. (only.IsEmpty ? [home] : only).Select(Example).OfType<AnswerValue>()];

        public override string TextOf(AnswerValue value, string language) => value.Text!;

        public override Reading Read(AnswerValue raw, IAnswerContext context)
        {
            if (raw.Text is null || !CanonicalText.TryMake(raw.Text, out var text))
            {
                return Reading.Refused(RefusalKeys.NotText);
            }

            var numbers = PhoneNumberUtil.GetInstance();
            try
            {
                var number = numbers.Parse(text, home);

                // "Possible" and not "valid": numbering plans change faster than tables, and a shop must not refuse a new range. One that can be
                // dialled only from nearby is no number for E.164.
                if (numbers.IsPossibleNumberWithReason(number) == PhoneNumberUtil.ValidationResult.IS_POSSIBLE && !number.HasExtension)
                {
                    var canonical = numbers.Format(number, PhoneNumberFormat.E164);
                    return !only.IsEmpty && !only.Any(region => numbers.GetCountryCodeForRegion(region) == number.CountryCode)
                        ? Reading.Refused(_otherCountry)
                        : Reading.Of(canonical == raw.Text ? raw : AnswerValue.Of(canonical));
                }
            }
            catch (NumberParseException)
            {
                // Refused below: the parser has no other way to say that a text is not a number.
            }

            return Reading.Refused(RefusalKeys.NotTelephone);
        }

        private static AnswerValue? Example(string region)
        {
            var numbers = PhoneNumberUtil.GetInstance();
            return numbers.GetExampleNumber(region) is { } number ? AnswerValue.Of(numbers.Format(number, PhoneNumberFormat.E164)) : null;
        }
    }
}
