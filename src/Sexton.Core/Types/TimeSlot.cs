using System.Collections.Immutable;
using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>
/// A day and one of the times offered on it. The value has two parts: day (full-date of RFC 3339) and slot (the key of the choice); the text is
/// "31 March 2027, 09:00–12:00", and for systems "2027-03-31, 09:00–12:00".
/// </summary>
public sealed class TimeSlot : FieldType
{
    private const string Day = "day",
        Slot = "slot";

    /// <inheritdoc/>
    public override string Key => "time_slot";

    /// <inheritdoc/>
    public override string Name => "a time slot";

    /// <inheritdoc/>
    public override string ShortName => "slot of";

    /// <inheritdoc/>
    public override string Line => "a day, and one of the times that you offer";

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } = [new ChoicesSetting(OneOf.Choices, "{}"), .. DayLimits.Settings];

    /// <inheritdoc/>
    public override string Describe(SettingReader settings) => $"{ShortName} {settings.Choices(OneOf.Choices).Length}";

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) => new Rule(new DayLimits(settings), settings.Choices(OneOf.Choices), null);

    /// <inheritdoc/>
    protected override IEnumerable<SettingProblem> Contradictions(SettingReader settings) => DayLimits.Contradictions(settings);

    private sealed class Rule(DayLimits limits, ImmutableArray<Choice> choices, DayForm? form) : AnswerRule
    {
        private static readonly Refusal PartMissing = new("slot_part_missing");

        private readonly ChoiceIndex _index = new(choices);

        public override int LongestText => DayLimits.Format.Length + 2 + _index.LongestLabel;

        public override FactKind Fact => FactKind.Day;

        public override AnswerValue FactOf(AnswerValue value) => AnswerValue.Of(value.Parts![Day]);

        public override JsonObject Schema =>
            new()
            {
                ["type"] = "object",
                ["required"] = new JsonArray(Day, Slot),
                ["additionalProperties"] = false,
                ["properties"] = new JsonObject
                {
                    [Day] = new JsonObject { ["type"] = "string", ["format"] = "date" },
                    [Slot] = _index.Schema,
                },
            };

        public override ImmutableArray<AnswerValue> Samples =>
            limits.Sample is { } day && choices.FirstOrDefault(static c => c.When is null) is { } slot ? [Value(day, slot.Key)] : [];

        public override ImmutableArray<Choice> Choices => choices;

        public override bool HoldsDay => true;

        public override OpenDays? OpenDaysOn(DateOnly today) => limits.OpenOn(today);

        public override AnswerRule With(WordsThere words) => new Rule(limits, words.Of(choices), words.Days);

        public override int TimesTaken(AnswerValue value, string choice) => value.Parts![Slot] == choice ? 1 : 0;

        public override SettingProblem? Lacks => _index.Lacks;

        public override Reading Read(AnswerValue raw, IAnswerContext context)
        {
            var (day, slot) = (raw.Parts?.GetValueOrDefault(Day)?.Trim() ?? "", raw.Parts?.GetValueOrDefault(Slot) ?? "");
            if (day.Length == 0 || slot.Length == 0)
            {
                return raw.Parts is not null && day.Length + slot.Length == 0
                    ? Reading.Empty
                    : Reading.Refused(PartMissing with { Part = day.Length == 0 ? Day : Slot });
            }

            if (limits.Read(day, context, out day) is { } refusal)
            {
                return Reading.Refused(refusal with { Part = Day });
            }

            return _index.Find(slot) is not (>= 0 and var at) ? Reading.Refused(new Refusal(RefusalKeys.NotAChoice, Part: Slot))
                : !context.Offers(at) ? Reading.Refused(new Refusal(RefusalKeys.NotOffered, choices[at].Label.ToString(), Part: Slot))
                : Reading.Of(raw.Parts!.Count == 2 && raw.Parts[Day] == day ? raw : Value(day, slot));
        }

        public override string TextOf(AnswerValue value, string language) =>
            Text(value, form?.Write(value.Parts![Day]) ?? LocalText.Day(value.Parts![Day], language), language);

        public override string SystemTextOf(AnswerValue value, string language) =>
            Text(value, form?.Write(value.Parts![Day]) ?? value.Parts![Day], language);

        private string Text(AnswerValue value, string day, string language) => $"{day}, {_index.LabelOf(value.Parts![Slot], language)}";

        private static AnswerValue Value(string day, string slot) =>
            AnswerValue.Of(new Dictionary<string, string>(StringComparer.Ordinal) { [Day] = day, [Slot] = slot });
    }
}
