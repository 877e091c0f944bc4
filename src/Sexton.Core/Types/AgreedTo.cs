using System.Collections.Immutable;
using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>
/// Agreed to a text. The value has one part, text: the very text that was shown, in the language in which it was shown. The form sends it back, so
/// that what is agreed to is what was read: where the text was changed meanwhile, it is asked again.
/// </summary>
public sealed class AgreedTo : FieldType
{
    private const string Terms = "terms",
        Says = "says",
        Part = "text";

    /// <inheritdoc/>
    public override string Key => "agreed_to";

    /// <inheritdoc/>
    public override string Name => "agreed to";

    /// <inheritdoc/>
    public override string ShortName => "agreed to";

    /// <inheritdoc/>
    public override string Line => "a text that is read and agreed to, kept word for word";

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
        new WordingSetting(Terms, "the text {}", "") { SeveralLines = true, ForTheForm = true },
        new WordingSetting(Says, "the box reads “{}”", "other words beside the box") { ForTheForm = true, Sentence = "answer.i_agree" },
    ];

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) =>
        new Rule(
            [.. settings.Wording(Terms).Texts.Values.Select(Canonical).Where(static t => t.Length > 0)],
            settings.Shop["answer.agreed"]
        );

    private static string Canonical(string text) => CanonicalText.TryMake(text, out var canonical) ? canonical : "";

    private sealed class Rule(ImmutableArray<string> terms, LanguageMap agreed) : AnswerRule
    {
        private static readonly Refusal TermsChanged = new("terms_changed");

        private static readonly Refusal NotAgreed = new(RefusalKeys.Required, Sentence: "not_agreed");

        public override Refusal Missing => NotAgreed;

        public override int LongestText => agreed.Texts.Values.Max(static t => t.Length);

        public override FactKind Fact => FactKind.Truth;

        public override AnswerValue FactOf(AnswerValue value) => AnswerValue.Yes;

        public override JsonObject Schema =>
            new()
            {
                ["type"] = "object",
                ["required"] = new JsonArray(Part),
                ["additionalProperties"] = false,
                ["properties"] = new JsonObject
                {
                    [Part] = terms.IsEmpty
                        ? new JsonObject { ["not"] = new JsonObject() }
                        : new JsonObject { ["enum"] = new JsonArray([.. terms.Select(static t => (JsonNode)JsonValue.Create(t))]) },
                },
            };

        public override ImmutableArray<AnswerValue> Samples => [.. terms.Select(Value)];

        public override SettingProblem? Lacks =>
            terms.IsEmpty ? new SettingProblem(Terms, "There is no text to agree to. Write it.") : null;

        public override Reading Read(AnswerValue raw, IAnswerContext context)
        {
            if (raw.Truth == false || raw.Parts?.GetValueOrDefault(Part) is "")
            {
                return Reading.Empty;
            }

            var shown = raw.Parts?.GetValueOrDefault(Part) ?? "";
            var read = Canonical(shown);
            return read.Length == 0 || !terms.Contains(read, StringComparer.Ordinal)
                ? Reading.Refused(TermsChanged)
                : Reading.Of(raw.Parts!.Count == 1 && shown == read ? raw : Value(read));
        }

        public override string TextOf(AnswerValue value, string language) => agreed.In(language);

        public override string? KeptText(AnswerValue value) => value.Parts![Part];

        private static AnswerValue Value(string text) =>
            AnswerValue.Of(new Dictionary<string, string>(StringComparer.Ordinal) { [Part] = text });
    }
}
