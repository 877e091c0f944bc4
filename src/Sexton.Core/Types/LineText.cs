using System.Collections.Immutable;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>One line of text, counted in user-perceived characters.</summary>
public sealed class LineText : FieldType
{
    /// <summary>Its key.</summary>
    public const string TypeKey = "line_text";

    /// <summary>The name of the setting that limits the length.</summary>
    public const string Longest = TextLimits.Longest;

    /// <inheritdoc/>
    public override string Key => TypeKey;

    /// <inheritdoc/>
    public override string Name => "one line of text";

    /// <inheritdoc/>
    public override string ShortName => "text";

    /// <inheritdoc/>
    public override string Line => "a few words: a name on a label, a reference of theirs";

    /// <inheritdoc/>
    public override bool TakesPlaceholder => true;

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } = TextLimits.Settings(normal: 60, most: 500);

    /// <inheritdoc/>
    public override string Describe(SettingReader settings) => $"{ShortName}, {settings.Whole(Longest)}";

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) => new LineRule(settings.Whole(Longest)!.Value, new TextLimits(settings));

    /// <inheritdoc/>
    protected override IEnumerable<SettingProblem> Contradictions(SettingReader settings) => TextLimits.Contradictions(settings);
}

/// <summary>Reads one line of text of a greatest length.</summary>
/// <param name="longest">The greatest length in characters.</param>
/// <param name="limits">Further limits, or null.</param>
internal sealed class LineRule(int longest, TextLimits? limits = null) : TextRule
{
    public override int LongestText => longest;

    public override ImmutableArray<AnswerValue> Samples => [AnswerValue.Of("Zoë"), AnswerValue.Of(new string('x', longest))];

    protected override Refusal? Check(string text, IAnswerContext context) => CheckLine(text, context);

    public Refusal? CheckLine(string text, IAnswerContext context)
    {
        // U+2028 and U+2029 end a line wherever the text is shown, LF and NEL do so on paper.
        if (text.AsSpan().IndexOfAny("\n\u0085\u2028\u2029") >= 0)
        {
            return new Refusal(RefusalKeys.LineBreak);
        }

        if (limits is not null)
        {
            return limits.Check(text, context);
        }

        return Graphemes.FitIn(text, longest)
            ? null
            : new Refusal(RefusalKeys.TooLong, TextLimits.Number(longest), TextLimits.Number(Graphemes.Count(text)));
    }
}
