using System.Collections.Immutable;
using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>A day of the calendar, entered as the shopper's language writes it, and kept as full-date of RFC 3339 (a profile of ISO 8601), from the year 1 on.</summary>
public sealed class CalendarDay : FieldType
{
    /// <inheritdoc/>
    public override string Key => "date";

    /// <inheritdoc/>
    public override string Name => "a date";

    /// <inheritdoc/>
    public override string ShortName => "date";

    /// <inheritdoc/>
    public override string Line => "a day: when to plant, when somebody was born";

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings => DayLimits.Settings;

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) => new Rule(new DayLimits(settings), null);

    /// <inheritdoc/>
    protected override IEnumerable<SettingProblem> Contradictions(SettingReader settings) => DayLimits.Contradictions(settings);

    private sealed class Rule(DayLimits limits, DayForm? form) : AnswerRule
    {
        public override int LongestText => DayLimits.Format.Length;

        public override bool HoldsDay => true;

        public override AnswerRule With(WordsThere words) => new Rule(limits, words.Days);

        public override FactKind Fact => FactKind.Day;

        public override JsonObject Schema => new() { ["type"] = "string", ["format"] = "date" };

        public override ImmutableArray<AnswerValue> Samples => limits.Sample is { } day ? [AnswerValue.Of(day)] : [];

        public override Reading Read(AnswerValue raw, IAnswerContext context)
        {
            return limits.Read(raw.Text?.Trim(), context, out var day) is { } refusal
                ? Reading.Refused(refusal)
                : Reading.Of(day == raw.Text ? raw : AnswerValue.Of(day));
        }

        public override OpenDays? OpenDaysOn(DateOnly today) => limits.OpenOn(today);

        public override string TextOf(AnswerValue value, string language) =>
            form?.Write(value.Text!) ?? LocalText.Day(value.Text!, language);

        public override string SystemTextOf(AnswerValue value, string language) => form?.Write(value.Text!) ?? value.Text!;
    }
}
