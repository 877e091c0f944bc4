using System.Collections.Immutable;
using System.Text;
using System.Text.Json;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>
/// A text of several lines, counted in user-perceived characters. A line end counts as one, but where lines have a limit of their own, as on a plate that is
/// stamped line by line: then what all of it has room for follows from the lines.
/// </summary>
public sealed class LongText : FieldType
{
    /// <summary>Its key.</summary>
    public const string TypeKey = "long_text";

    private const int Most = 5000;

    private const string Lines = "lines",
        LineLongest = "line_longest",
        Height = "height";

    /// <inheritdoc/>
    public override string Key => TypeKey;

    /// <inheritdoc/>
    public override string Name => "a longer text";

    /// <inheritdoc/>
    public override string ShortName => "long text";

    /// <inheritdoc/>
    public override string Line => "several lines: a message, directions to the gate";

    /// <inheritdoc/>
    public override bool TakesPlaceholder => true;

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
        .. TextLimits.Settings(normal: 240, most: Most, Lines, LineLongest),
        new WholeNumberSetting(Lines, "at most {} lines", "a limit of lines", 1, 200) { ForTheForm = true },
        new WholeNumberSetting(LineLongest, "at most {} characters a line", "a limit for each line", 1, 500) { ForTheForm = true },
        new WholeNumberSetting(Height, "shown {} lines high", "", 2, 20)
        {
            Default = JsonSerializer.SerializeToElement(4),
            ForTheForm = true,
        },
    ];

    /// <inheritdoc/>
    public override string Describe(SettingReader settings) =>
        ByLine(settings) is var (lines, each) ? $"{ShortName}, {lines} × {each}" : $"{ShortName}, {settings.Whole(TextLimits.Longest)}";

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) =>
        new Rule(
            settings.Whole(Lines) ?? int.MaxValue,
            settings.Whole(LineLongest) ?? int.MaxValue,
            LongestOf(settings),
            new(settings, LongestOf(settings))
        );

    /// <inheritdoc/>
    protected override IEnumerable<SettingProblem> Contradictions(SettingReader settings) =>
        ByLine(settings) is var (lines, each) && lines * each > Most
            ?
            [
                new SettingProblem(
                    LineLongest,
                    $"That comes to {lines * each} characters, and there is room for {Most}. Make the lines fewer or shorter."
                ),
            ]
            : TextLimits.Contradictions(settings, LongestOf(settings));

    private static (int Lines, int Each)? ByLine(SettingReader settings) =>
        settings.Whole(Lines) is { } lines && settings.Whole(LineLongest) is { } each ? (lines, each) : null;

    // With the line ends, which count wherever the text stands as a whole.
    private static int LongestOf(SettingReader settings) =>
        ByLine(settings) is var (lines, each) ? (lines * each) + lines - 1 : settings.Whole(TextLimits.Longest)!.Value;

    private sealed class Rule(int mostLines, int lineLongest, int longest, TextLimits limits) : TextRule
    {
        public override int LongestText => longest;

        public override ImmutableArray<AnswerValue> Samples => [AnswerValue.Of("Zoë"), AnswerValue.Of(Longest())];

        protected override Refusal? Check(string text, IAnswerContext context)
        {
            var lines = text.AsSpan().Count('\n') + 1;
            return lines > mostLines ? new Refusal(RefusalKeys.TooManyLines, TextLimits.Number(mostLines), TextLimits.Number(lines))
                : lineLongest < int.MaxValue && TooLongLine(text) is { } refusal ? refusal
                : limits.Check(text, context);
        }

        private Refusal? TooLongLine(string text)
        {
            var number = 0;
            foreach (var line in text.Split('\n'))
            {
                number++;
                if (!Graphemes.FitIn(line, lineLongest))
                {
                    return new Refusal(
                        RefusalKeys.LineTooLong,
                        TextLimits.Number(lineLongest),
                        TextLimits.Number(Graphemes.Count(line)),
                        Third: TextLimits.Number(number)
                    );
                }
            }

            return null;
        }

        // As many full lines as there may be, and of all of it no more than there may be.
        private string Longest()
        {
            var text = new StringBuilder();
            for (var line = 0; line < mostLines && text.Length + 1 < longest; line++)
            {
                text.Append('\n', line == 0 ? 0 : 1).Append('x', Math.Min(lineLongest, longest - text.Length));
            }

            return text.Length == 0 ? "x" : text.ToString();
        }
    }
}
