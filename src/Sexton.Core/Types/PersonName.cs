using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>A person's name: in one line as the person writes it, or as given and family name where somebody has to tell them apart.</summary>
public sealed class PersonName : FieldType
{
    /// <summary>Its key.</summary>
    public const string TypeKey = "person_name";

    /// <summary>The parts of a name.</summary>
    public const string Given = "given",
        Family = "family";

    private const string Parts = "parts",
        Whole = "whole",
        Both = "both",
        Either = "either";

    /// <inheritdoc/>
    public override string Key => TypeKey;

    /// <inheritdoc/>
    public override string Name => "a person’s name";

    /// <inheritdoc/>
    public override string ShortName => "name";

    /// <inheritdoc/>
    public override string Line => "what somebody is called";

    /// <inheritdoc/>
    public override bool IsPersonal => true;

    /// <inheritdoc/>
    public override bool TakesPlaceholder => true;

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
        new OptionSetting(
            Parts,
            "asked {}",
            "",
            [new(Whole, "in one line"), new(Both, "as given and family name"), new(Either, "as given and family name, or one of them")]
        )
        {
            Default = JsonSerializer.SerializeToElement(Whole),
            ForTheForm = true,
        },
    ];

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) =>
        settings.Text(Parts) is Both or Either ? new PartsRule(settings.Text(Parts) == Both, settings.Shop) : new WholeRule();

    // People are called in these languages by their family name first (Unicode CLDR, person names, "surnameFirst"; from memory).
    private static readonly string[] FamilyFirst = ["hu", "ja", "km", "ko", "mn", "si", "ta", "te", "vi", "yue", "zh"];

    /// <summary>The parts in the order in which a language says them.</summary>
    /// <param name="language">The language (BCP 47).</param>
    public static ImmutableArray<string> InOrder(string language) =>
        FamilyFirst.Contains(language.Split('-')[0], StringComparer.OrdinalIgnoreCase) ? [Family, Given] : [Given, Family];

    private static string Joined(IReadOnlyDictionary<string, string> parts, string language) =>
        string.Join(' ', InOrder(language).Select(p => parts.GetValueOrDefault(p, "").Trim()).Where(static p => p.Length > 0));

    /// <summary>One line. A name that was given in parts, before it was asked so, is taken as it is said.</summary>
    private sealed class WholeRule : AnswerRule
    {
        private readonly LineRule _line = new(80);

        public override int LongestText => _line.LongestText;

        public override FactKind Fact => _line.Fact;

        public override JsonObject Schema => _line.Schema;

        public override ImmutableArray<AnswerValue> Samples => _line.Samples;

        public override ImmutableArray<AnswerMeasure> PricedBy => _line.PricedBy;

        public override bool IsWrittenIn(Func<string, bool> hasAll) => false;

        public override Reading Read(AnswerValue raw, IAnswerContext context) =>
            _line.Read(raw.Parts is { } parts ? AnswerValue.Of(Joined(parts, context.Language)) : raw, context);

        public override string TextOf(AnswerValue value, string language) => _line.TextOf(value, language);
    }

    /// <summary>Given and family name. One that was given in one line stands as the family name until it is told apart.</summary>
    private sealed class PartsRule(bool needsBoth, Sentences.Wording shop) : AnswerRule
    {
        private const int LongestPart = 60;

        private static readonly LineRule Line = new(LongestPart);

        public override int LongestText => (2 * LongestPart) + 1;

        public override FactKind Fact => FactKind.Other;

        public override bool IsWrittenIn(Func<string, bool> hasAll) => false;

        public override ImmutableDictionary<string, JsonElement> ForTheForm(string language) =>
            ImmutableDictionary<string, JsonElement>
                .Empty.Add("needs_both", JsonSerializer.SerializeToElement(needsBoth))
                .Add(
                    "names",
                    JsonSerializer.SerializeToElement(
                        InOrder(language).Select(p => new { name = p, label = shop.Say("name." + p, language) })
                    )
                );

        public override JsonObject Schema =>
            new()
            {
                ["type"] = "object",
                ["minProperties"] = needsBoth ? 2 : 1,
                ["properties"] = new JsonObject { [Given] = Part(), [Family] = Part() },
                ["additionalProperties"] = false,
            };

        public override ImmutableArray<AnswerValue> Samples =>
            [Name("Zoë", "Quill"), Name(new string('x', LongestPart), new string('x', LongestPart))];

        public override Reading Read(AnswerValue raw, IAnswerContext context)
        {
            var given = raw.Text is { } whole
                ? new Dictionary<string, string>(StringComparer.Ordinal) { [Family] = whole }
                : (IReadOnlyDictionary<string, string>?)raw.Parts;
            if (given is null)
            {
                return Reading.Refused(RefusalKeys.NotText);
            }

            var parts = new Dictionary<string, string>(StringComparer.Ordinal);
            foreach (var part in InOrder(context.Language))
            {
                if (!CanonicalText.TryMake(given.GetValueOrDefault(part, ""), out var text))
                {
                    return Reading.Refused(new Refusal(RefusalKeys.NotText, Part: part));
                }

                if (Line.CheckLine(text, context) is { } refusal)
                {
                    return Reading.Refused(refusal with { Part = part });
                }

                if (!CanonicalText.IsBlank(text))
                {
                    parts[part] = text;
                }
            }

            var missing = InOrder(context.Language).FirstOrDefault(p => !parts.ContainsKey(p));
            return parts.Count == 0 ? Reading.Empty
                : needsBoth && missing is not null
                    ? Reading.Refused(new Refusal(RefusalKeys.PartMissing, shop.Say("name." + missing, context.Language), Part: missing))
                : AnswerValue.Of(parts) is var name && name.Equals(raw) ? Reading.Of(raw)
                : Reading.Of(name);
        }

        public override string TextOf(AnswerValue value, string language) => Joined(value.Parts!, language);

        private static JsonObject Part() => new() { ["type"] = "string", ["minLength"] = 1 };

        private static AnswerValue Name(string given, string family) =>
            AnswerValue.Of(new Dictionary<string, string>(StringComparer.Ordinal) { [Given] = given, [Family] = family });
    }
}
