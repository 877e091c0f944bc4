using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>A country. The value is its code (ISO 3166-1 alpha-2), which systems get; the text for people its English name.</summary>
public sealed class Country : FieldType
{
    private const string Only = "only";

    /// <summary>The key of the kind.</summary>
    public const string TypeKey = "country";

    /// <inheritdoc/>
    public override string Key => TypeKey;

    /// <inheritdoc/>
    public override string Name => "a country";

    /// <inheritdoc/>
    public override string ShortName => "country";

    /// <inheritdoc/>
    public override string Line => "a country by its name";

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } =
    [new OptionSetting(Only, "only {}", "some countries only", Regions.All, several: true)];

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) =>
        new CountryRule(
            [
                .. (settings.Texts(Only) is { IsEmpty: false } only ? Regions.Of(only) : Regions.All).Select(static c => new Choice
                {
                    Key = c.Key,
                    Label = Regions.NamesOf(c.Key),
                }),
            ],
            WordsThere.None
        );

    /// <inheritdoc/>
    protected override IEnumerable<SettingProblem> Contradictions(SettingReader settings)
    {
        if (settings.Find(Only) is { ValueKind: JsonValueKind.Array } only && only.GetArrayLength() == 0)
        {
            yield return new SettingProblem(Only, "No country is left to choose. Name one, or take the limit away.");
        }
    }

    // A system reads the code, where it has no word of its own for the country.
    private sealed class CountryRule(ImmutableArray<Choice> countries, WordsThere words) : ChoiceRule(words.Of(countries))
    {
        public override AnswerRule With(WordsThere words) => new CountryRule(countries, words);

        public override string SystemTextOf(AnswerValue value, string language) => words.Values.GetValueOrDefault(value.Text!, value.Text!);
    }
}
