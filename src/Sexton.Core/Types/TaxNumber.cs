using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>
/// The number under which an organisation pays value added tax, with the prefix of its country, checked by the country's check digits. Typed with spaces,
/// dots or hyphens, kept without. Where only one country is taken, its prefix need not be typed. That a number passes does not say that it was given to anybody; the registry does, where it is asked.
/// </summary>
public sealed class TaxNumber : FieldType
{
    /// <summary>The key of the kind.</summary>
    public const string TypeKey = "tax_number";

    private const string Only = "only",
        Registry = "registry",
        WhenUnknown = "unknown",
        WhenUnreachable = "unreachable";
    private const string Refused = "refused",
        Taken = "taken";

    private static readonly ImmutableArray<KeyValuePair<string, string>> Outcomes =
    [
        KeyValuePair.Create(Refused, "refused"),
        KeyValuePair.Create(Taken, "taken, and staff are told"),
    ];

    private static readonly ImmutableArray<KeyValuePair<string, string>> Known = Regions.Of(TaxNumberDigits.Countries);

    /// <inheritdoc/>
    public override string Key => TypeKey;

    /// <summary>The country (ISO 3166-1 alpha-2) in which a number was given.</summary>
    /// <param name="number">The canonical number.</param>
    public static string CountryOf(string number) =>
        number[..2] switch
        {
            // The two prefixes that are no codes of countries (Council Directive 2006/112/EC, article 215).
            "EL" => "GR",
            "XI" => "GB",
            var country => country,
        };

    /// <inheritdoc/>
    public override string Name => "a tax number";

    /// <inheritdoc/>
    public override string ShortName => "tax number";

    /// <inheritdoc/>
    public override string Line => "the number under which an organisation pays tax; its digits are checked";

    /// <inheritdoc/>
    public override bool IsPersonal => true;

    /// <inheritdoc/>
    public override bool TakesPlaceholder => true;

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
        new OptionSetting(Only, "only of {}", "some countries only", Known, several: true),
        new ToggleSetting(Registry, "looked up in the registry", "that the registry is asked"),
        new OptionSetting(
            WhenUnknown,
            "one that the registry does not know is {}",
            "what follows when the registry does not know it",
            Outcomes
        )
        {
            Default = JsonSerializer.SerializeToElement(Refused),
        },
        new OptionSetting(
            WhenUnreachable,
            "while the registry does not answer it is {}",
            "what follows when the registry does not answer",
            Outcomes
        )
        {
            Default = JsonSerializer.SerializeToElement(Taken),
        },
    ];

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) =>
        new Rule(
            settings.Texts(Only) is { IsEmpty: false } only ? only : [.. Known.Select(static c => c.Key)],
            settings.Is(Registry),
            settings.Text(WhenUnknown) == Refused,
            settings.Text(WhenUnreachable) == Refused
        );

    /// <summary>Whether a text is a canonical number of some country.</summary>
    public static bool IsGood(string number) => number.Length > 2 && TaxNumberDigits.Fit(number[..2], number[2..]);

    private sealed class Rule(ImmutableArray<string> countries, bool lookedUp, bool refusesUnknown, bool waits) : TextRule
    {
        private static readonly Refusal NoCountry = new("no_tax_country");
        private static readonly Refusal Wrong = new("wrong_tax_number");

        private static readonly Refusal NotKnown = new("tax_number_unknown");
        private static readonly Refusal NoAnswer = new("tax_registry_unreachable");

        public override int LongestText => 14;

        // Letters and digits of ASCII.
        public override bool IsWrittenIn(Func<string, bool> hasAll) => true;

        public override ImmutableArray<AnswerValue> Samples =>
            [.. countries.Select(static c => AnswerValue.Of(TaxNumberDigits.Example(c)))];

        public override bool LooksUp => lookedUp;

        protected override string Complete(string text)
        {
            var bare = string.Concat(text.Where(static c => c is not (' ' or '.' or '-' or '\u00a0'))).ToUpperInvariant();
            return countries.Length == 1 && !bare.StartsWith(countries[0], StringComparison.Ordinal) ? countries[0] + bare : bare;
        }

        protected override Refusal? Check(string text, IAnswerContext context) =>
            text.Length < 3 || !countries.Contains(text[..2]) ? NoCountry
            : !TaxNumberDigits.Fit(text[..2], text[2..]) ? Wrong
            : !lookedUp ? null
            : (context.Registry(text), refusesUnknown, waits) switch
            {
                (RegistryFinding.Unknown, true, _) => NotKnown,
                (RegistryFinding.Unreachable, _, true) => NoAnswer,
                _ => null,
            };
    }
}
