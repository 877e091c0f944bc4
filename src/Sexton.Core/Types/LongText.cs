using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>A text of several lines, counted in user-perceived characters; a line end counts as one.</summary>
public sealed class LongText : FieldType
{
    /// <summary>Its key.</summary>
    public const string TypeKey = "long_text";

    private const string Lines = "lines",
        Height = "height";

    /// <inheritdoc/>
    public override string Key => TypeKey;

    /// <inheritdoc/>
    public override string Name => "a longer text";

    /// <inheritdoc/>
    public override string ShortName => "long text";

    /// <inheritdoc/>
    public override bool TakesPlaceholder => true;

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
        .. TextLimits.Settings(normal: 240, most: 5000),
        new WholeNumberSetting(Lines, "at most {} lines", "a limit of lines", 1, 200),
        new WholeNumberSetting(Height, "shown {} lines high", "", 2, 20)
        {
            Default = JsonSerializer.SerializeToElement(4),
            ForTheForm = true,
        },
    ];

    /// <inheritdoc/>
    public override string Describe(SettingReader settings) => $"{ShortName}, {settings.Whole(TextLimits.Longest)}";

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) =>
        new Rule(settings.Whole(TextLimits.Longest)!.Value, settings.Whole(Lines) ?? int.MaxValue, new TextLimits(settings));

    /// <inheritdoc/>
    protected override IEnumerable<SettingProblem> Contradictions(SettingReader settings) => TextLimits.Contradictions(settings);

    private sealed class Rule(int longest, int mostLines, TextLimits limits) : TextRule
    {
        public override int LongestText => longest;

        public override ImmutableArray<AnswerValue> Samples => [AnswerValue.Of("Zoë"), AnswerValue.Of(new string('x', longest))];

        protected override Refusal? Check(string text, IAnswerContext context)
        {
            var lines = text.AsSpan().Count('\n') + 1;
            return lines > mostLines
                ? new Refusal(RefusalKeys.TooManyLines, TextLimits.Number(mostLines), TextLimits.Number(lines))
                : limits.Check(text);
        }
    }
}
