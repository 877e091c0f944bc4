using PhoneNumbers;

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
    public override AnswerRule Bind(SettingReader settings) => new Rule();

    private sealed class Rule : TextRule
    {
        // The shop's own country. It becomes a setting with the other limits of this type.
        private const string HomeRegion = "IE";

        public override int LongestText => 16;

        protected override Reading ReadText(string text)
        {
            var numbers = PhoneNumberUtil.GetInstance();
            try
            {
                var number = numbers.Parse(text, HomeRegion);

                // "Possible" and not "valid": numbering plans change faster than tables, and a shop must not refuse a new range.
                if (numbers.IsPossibleNumber(number) && !number.HasExtension)
                {
                    var canonical = numbers.Format(number, PhoneNumberFormat.E164);
                    return Reading.Of(AnswerValue.Of(canonical), canonical);
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
