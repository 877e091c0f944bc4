using System.Collections.Immutable;
using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>Words only: something that the shopper reads between the questions. It asks nothing, under a condition like any field.</summary>
public sealed class WordsOnly : FieldType
{
    private const string Words = "words";

    /// <inheritdoc/>
    public override string Key => "words_only";

    /// <inheritdoc/>
    public override string Name => "words only";

    /// <inheritdoc/>
    public override string ShortName => "words";

    /// <inheritdoc/>
    public override string Line => "a sentence between the questions, which asks nothing";

    /// <inheritdoc/>
    public override bool AsksNothing => true;

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } =
    [new WordingSetting(Words, "reads {}", "") { SeveralLines = true, ForTheForm = true }];

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) => new Rule(settings.Wording(Words).IsEmpty);

    private sealed class Rule(bool silent) : AnswerRule
    {
        public override int LongestText => 0;

        public override FactKind Fact => FactKind.Other;

        public override JsonObject Schema => new() { ["not"] = new JsonObject() };

        public override ImmutableArray<AnswerValue> Samples => [];

        public override SettingProblem? Lacks => silent ? new SettingProblem(Words, "It says nothing yet. Write the words.") : null;

        public override Reading Read(AnswerValue raw, IAnswerContext context) => Reading.Empty;

        public override string TextOf(AnswerValue value, string language) => "";
    }
}
