using System.Collections.Immutable;
using System.Text.Json.Nodes;
using PhoneNumbers;
using Sexton.Core.Conditions;

namespace Sexton.Core.Register.Types;

/// <summary>A telephone number, entered in any usual way and kept as E.164 (ITU-T). A number without a country code is read as Irish.</summary>
public sealed class Telephone : FieldType
{
    /// <inheritdoc/>
    public override string Key => "telephone";

    /// <inheritdoc/>
    public override string Name => "a telephone number";

    /// <inheritdoc/>
    public override string ShortName => "telephone";

    /// <inheritdoc/>
    public override bool TakesPlaceholder => true;

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) => new Rule();

    private sealed class Rule : AnswerRule
    {
        // The shop's own country. It becomes a setting with the other limits of this type.
        private const string HomeRegion = "IE";

        public override int LongestText => 16;

        public override FactKind Fact => FactKind.Text;

        public override JsonObject Schema => new() { ["type"] = "string", ["pattern"] = "^\\+[0-9]{5,15}$" };

        public override ImmutableArray<AnswerValue> Samples => [AnswerValue.Of("+35315550100")];

        public override string TextOf(AnswerValue value, string language) => value.Text!;

        public override Reading Read(AnswerValue raw, IOccasion occasion)
        {
            if (raw.Text is null || !CanonicalText.TryMake(raw.Text, out var text))
            {
                return Reading.Refused(RefusalCodes.NotText);
            }

            var numbers = PhoneNumberUtil.GetInstance();
            try
            {
                var number = numbers.Parse(text, HomeRegion);

                // "Possible" and not "valid": numbering plans change faster than tables, and a shop must not refuse a new range.
                if (numbers.IsPossibleNumber(number) && !number.HasExtension)
                {
                    return Reading.Of(AnswerValue.Of(numbers.Format(number, PhoneNumberFormat.E164)));
                }
            }
            catch (NumberParseException)
            {
                // Refused below: the parser has no other way to say that a text is not a number.
            }

            return Reading.Refused(RefusalCodes.NotTelephone);
        }
    }
}
