using System.Collections.Immutable;
using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>Several of a list, kept in the order of the list, without doubles. The text has a label a line.</summary>
public sealed class SeveralOf : FieldType
{
    private const string Least = "least",
        Most = "most";

    /// <inheritdoc/>
    public override string Key => "several_of";

    /// <inheritdoc/>
    public override string Name => "several of";

    /// <inheritdoc/>
    public override string ShortName => "several of";

    /// <inheritdoc/>
    public override string Line => "as many choices of a list as you allow";

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
        new ChoicesSetting(OneOf.Choices, "{}"),
        new WholeNumberSetting(Least, "at least {} of them", "a least number of picks", 1, ChoicesSetting.Most),
        new WholeNumberSetting(Most, "at most {} of them", "a greatest number of picks", 1, ChoicesSetting.Most) { ForTheForm = true },
    ];

    /// <inheritdoc/>
    public override string Describe(SettingReader settings) => $"{ShortName} {settings.Choices(OneOf.Choices).Length}";

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) =>
        new Rule(settings.Choices(OneOf.Choices), settings.Whole(Least) ?? 0, settings.Whole(Most) ?? int.MaxValue);

    /// <inheritdoc/>
    protected override IEnumerable<SettingProblem> Contradictions(SettingReader settings)
    {
        if (settings.Whole(Least) > settings.Whole(Most))
        {
            yield return new SettingProblem(Least, "The least number of picks is greater than the greatest. Make one of them fit.");
        }
        else if (
            settings.Choices(OneOf.Choices) is { IsEmpty: false } choices
            && settings.Whole(Least) > choices.Count(static c => !c.Excludes)
        )
        {
            yield return new SettingProblem(Least, "More must be picked than there are choices. Add choices, or ask for fewer.");
        }
    }

    private sealed class Rule(ImmutableArray<Choice> choices, int least, int most) : AnswerRule
    {
        private readonly ChoiceIndex _index = new(choices);

        public override int LongestText =>
            Math.Max(
                _index.LongestOf(Math.Min(most, choices.Length), static picks => picks - 1, static c => !c.Excludes),
                _index.LongestOf(1, static _ => 0, static c => c.Excludes)
            );

        public override FactKind Fact => FactKind.List;

        public override JsonObject Schema =>
            new()
            {
                ["type"] = "array",
                ["items"] = _index.Schema,
                ["uniqueItems"] = true,
                ["minItems"] = 1,
            };

        public override ImmutableArray<AnswerValue> Samples
        {
            get
            {
                var offered = choices.Where(static c => c.When is null && !c.Excludes).Select(static c => c.Key).ToImmutableArray();
                return offered.Length < Math.Max(1, least)
                    ? []
                    : [AnswerValue.Of([.. offered.Take(Math.Max(1, least))]), AnswerValue.Of([.. offered.Take(most)])];
            }
        }

        public override ImmutableArray<Choice> Choices => choices;

        public override AnswerRule With(WordsThere words) => new Rule(words.Of(choices), least, most);

        public override PickLimits Picks => new(least, most, 1, 1);

        public override int TimesTaken(AnswerValue value, string choice)
        {
            foreach (var pick in value.Picks!.Value)
            {
                if (pick == choice)
                {
                    return 1;
                }
            }

            return 0;
        }

        public override SettingProblem? Lacks => _index.Lacks;

        public override Reading Read(AnswerValue raw, IAnswerContext context)
        {
            if (raw.Picks is not { } picks)
            {
                return Reading.Refused(RefusalKeys.NotAChoice);
            }

            var (last, sorted, excluding) = (-1, true, -1);
            foreach (var pick in picks)
            {
                var at = _index.Find(pick);
                if (at < 0)
                {
                    return Reading.Refused(RefusalKeys.NotAChoice);
                }

                if (!context.Offers(at))
                {
                    return Reading.Refused(new Refusal(RefusalKeys.NotOffered, choices[at].Label.ToString()));
                }

                sorted &= at > last;
                last = at;
                excluding = choices[at].Excludes ? at : excluding;
            }

            var value = sorted ? raw : AnswerValue.Of([.. picks.Distinct(StringComparer.Ordinal).OrderBy(_index.Find)]);
            return Check(value.Picks!.Value.Length, excluding) is { } refusal ? Reading.Refused(refusal) : Reading.Of(value);
        }

        public override string TextOf(AnswerValue value, string language) =>
            string.Join('\n', value.Picks!.Value.Select(p => _index.LabelOf(p, language)));

        private Refusal? Check(int count, int excluding)
        {
            if (excluding >= 0)
            {
                // "None of these" is an answer of its own, and no least number applies to it.
                return count > 1 ? new Refusal(RefusalKeys.ExcludesOthers, choices[excluding].Label.ToString()) : null;
            }

            return count < least ? new Refusal(RefusalKeys.TooFewPicks, TextLimits.Number(least))
                : count > most ? new Refusal(RefusalKeys.TooManyPicks, TextLimits.Number(most))
                : null;
        }
    }
}
