using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Register.Settings;

namespace Sexton.Core.Register.Types;

/// <summary>
/// The number under which an organisation pays value added tax, with the prefix of its country, checked by the country's check digits. Typed with spaces,
/// dots or hyphens, kept without. Where only one country is taken, its prefix need not be typed. That a number passes does not say that it was given to anybody.
/// </summary>
public sealed class TaxNumber : FieldType
{
    private const string Only = "only";

    private static readonly ImmutableArray<KeyValuePair<string, string>> Known = Regions.Of(TaxNumberDigits.Countries);

    /// <inheritdoc/>
    public override string Key => "tax_number";

    /// <inheritdoc/>
    public override string Name => "a tax number";

    /// <inheritdoc/>
    public override string ShortName => "tax number";

    /// <inheritdoc/>
    public override bool TakesPlaceholder => true;

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } = [new OptionSetting(Only, "only of {}", "some countries only", Known, several: true)];

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) => new Rule(settings.Texts(Only) is { IsEmpty: false } only ? only : [.. Known.Select(static c => c.Key)]);

    private sealed class Rule(ImmutableArray<string> countries) : TextRule
    {
        private static readonly Refusal NoCountry = new("no_tax_country", Wording: LanguageMap.Of("Begin “{0}” with the two letters of a country whose numbers we take, such as IE."));
        private static readonly Refusal Wrong = new("wrong_tax_number", Wording: LanguageMap.Of("This is not a tax number: its digits do not fit together. Compare it with the invoice or certificate that it stands on."));

        public override int LongestText => 14;

        public override ImmutableArray<AnswerValue> Samples => [.. countries.Select(static c => AnswerValue.Of(TaxNumberDigits.Example(c)))];

        protected override string Complete(string text)
        {
            var bare = string.Concat(text.Where(static c => c is not (' ' or '.' or '-' or '\u00a0'))).ToUpperInvariant();
            return countries.Length == 1 && !bare.StartsWith(countries[0], StringComparison.Ordinal) ? countries[0] + bare : bare;
        }

        protected override Refusal? Check(string text, IOccasion occasion) =>
            text.Length < 3 || !countries.Contains(text[..2]) ? NoCountry
            : TaxNumberDigits.Fit(text[..2], text[2..]) ? null
            : Wrong;
    }
}
