using System.Collections.Immutable;
using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>
/// Yes or no. Neither is left empty: a question that was not touched is not answered with no. As a single box it is: whoever sends it without a tick, saw it and
/// said no, and the form says so with what is sent; a box that was never shown stays unanswered.
/// </summary>
public sealed class YesOrNo : FieldType
{
    /// <summary>The key of this type, under which the opening questions of sections are asked too.</summary>
    public const string TypeKey = "yes_no";

    private const string Yes = "yes",
        No = "no",
        MustBeYes = "must_be_yes",
        Box = "box";

    /// <inheritdoc/>
    public override string Key => TypeKey;

    /// <inheritdoc/>
    public override string Name => "yes or no";

    /// <inheritdoc/>
    public override string ShortName => "yes or no";

    /// <inheritdoc/>
    public override string Line => "one of the two, or a single box to tick";

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
        new ToggleSetting(MustBeYes, "only yes lets the order go on", "that only yes will do"),
        new ToggleSetting(Box, "a single box to tick: without a tick it is a no", "that it is a single box to tick") { ForTheForm = true },
        new WordingSetting(Yes, "yes reads “{}”", "another word for yes") { ForTheForm = true, Sentence = "answer.yes" },
        new WordingSetting(No, "no reads “{}”", "another word for no") { ForTheForm = true, Sentence = "answer.no" },
    ];

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) =>
        new Rule(settings.Is(MustBeYes), settings.Wording(Yes), settings.Wording(No));

    /// <inheritdoc/>
    protected override IEnumerable<SettingProblem> Contradictions(SettingReader settings) =>
        settings.Is(Box) && settings.Is(MustBeYes)
            ? [new SettingProblem(Box, "A box that must be ticked is agreed to. Take one of the two away, or choose the kind “agreed to”.")]
            : [];

    private sealed class Rule(bool mustBeYes, LanguageMap yes, LanguageMap no) : AnswerRule
    {
        public override int LongestText => yes.Texts.Values.Concat(no.Texts.Values).Max(static t => Graphemes.Count(t));

        public override bool IsWrittenIn(Func<string, bool> hasAll) => yes.Texts.Values.Concat(no.Texts.Values).All(hasAll);

        public override ImmutableArray<NamedValue> NamedValues => [new(Yes, yes), new(No, no)];

        public override AnswerRule With(WordsThere words) => new Rule(mustBeYes, words.Of(Yes, yes), words.Of(No, no));

        public override FactKind Fact => FactKind.Truth;

        public override JsonObject Schema => mustBeYes ? new() { ["const"] = true } : new() { ["type"] = "boolean" };

        public override ImmutableArray<AnswerValue> Samples => mustBeYes ? [AnswerValue.Yes] : [AnswerValue.Yes, AnswerValue.No];

        public override Reading Read(AnswerValue raw, IAnswerContext context)
        {
            var truth =
                raw.Truth
                ?? raw.Text?.Trim() switch
                {
                    "yes" or "true" => true,
                    "no" or "false" => false,
                    _ => null,
                };
            return truth switch
            {
                null => Reading.Refused(RefusalKeys.NotYesOrNo),
                false when mustBeYes => Reading.Refused(RefusalKeys.MustBeYes),
                { } given => Reading.Of(AnswerValue.Of(given)),
            };
        }

        public override string TextOf(AnswerValue value, string language) => (value.Truth!.Value ? yes : no).In(language);
    }
}
