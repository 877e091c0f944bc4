using System.Collections.Immutable;
using System.Globalization;

namespace Sexton.Core.Register.Types;

/// <summary>One line of text, counted in user-perceived characters.</summary>
public sealed class LineText : FieldType
{
    /// <summary>The name of the setting that limits the length.</summary>
    public const string Longest = "longest";

    /// <inheritdoc/>
    public override string Key => "line_text";

    /// <inheritdoc/>
    public override string Name => "one line of text";

    /// <inheritdoc/>
    public override string ShortName => "text";

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } = [new(Longest, "at most {} characters", 1, 500, 60)];

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) => new LineRule(settings.Number(Longest));
}

/// <summary>Reads one line of text of a greatest length.</summary>
internal sealed class LineRule(int longest) : TextRule
{
    public override int LongestText => longest;

    protected override Reading ReadText(string text)
    {
        // U+2028 and U+2029 end a line wherever the text is shown, LF and NEL do so on paper.
        if (text.AsSpan().IndexOfAny("\n\u0085\u2028\u2029") >= 0)
        {
            return Reading.Refused(RefusalCodes.LineBreak);
        }

        return Graphemes.FitIn(text, longest)
            ? Reading.Of(AnswerValue.Of(text), text)
            : Reading.Refused(
                RefusalCodes.TooLong,
                null,
                longest.ToString(CultureInfo.InvariantCulture),
                Graphemes.Count(text).ToString(CultureInfo.InvariantCulture));
    }
}
