using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>
/// How many of each of a list: a box of mixed bulbs. The value holds the count of every choice that is taken, by its key; the text has a line
/// for each, in the order of the list.
/// </summary>
public sealed class HowManyOfEach : FieldType
{
    private const string Least = "least",
        Most = "most",
        LeastOfEach = "least_of_each",
        MostOfEach = "most_of_each";

    // What one list can come to; counts beyond are mistakes of typing.
    private const int Bound = 9_999;

    /// <inheritdoc/>
    public override string Key => "how_many_of_each";

    /// <inheritdoc/>
    public override string Name => "how many of each";

    /// <inheritdoc/>
    public override string ShortName => "counts of";

    /// <inheritdoc/>
    public override string Line => "a count for each choice: what goes into a box";

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
        new ChoicesSetting(OneOf.Choices, "{}"),
        new WholeNumberSetting(Least, "at least {} in all", "a least number in all", 1, Bound) { ForTheForm = true },
        new WholeNumberSetting(Most, "at most {} in all", "a greatest number in all", 1, Bound) { ForTheForm = true },
        new WholeNumberSetting(LeastOfEach, "at least {} of what is taken", "a least number of each", 1, Bound),
        new WholeNumberSetting(MostOfEach, "at most {} of each", "a greatest number of each", 1, Bound) { ForTheForm = true },
    ];

    /// <inheritdoc/>
    public override string Describe(SettingReader settings) => $"{ShortName} {settings.Choices(OneOf.Choices).Length}";

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) =>
        new Rule(
            settings.Choices(OneOf.Choices),
            settings.Whole(Least) ?? 1,
            settings.Whole(Most) ?? Bound,
            settings.Whole(LeastOfEach) ?? 1,
            settings.Whole(MostOfEach) ?? Bound
        );

    /// <inheritdoc/>
    protected override IEnumerable<SettingProblem> Contradictions(SettingReader settings)
    {
        var choices = settings.Choices(OneOf.Choices);
        if (choices.FirstOrDefault(static c => c.Excludes) is { } excluding)
        {
            yield return new SettingProblem(
                OneOf.Choices,
                $"“{excluding.Label}” takes the others away, and there is nothing to count then. Leave the answer optional instead."
            );
        }

        if (settings.Whole(Least) > settings.Whole(Most))
        {
            yield return new SettingProblem(Least, "The least number in all is greater than the greatest. Make one of them fit.");
        }
        else if (!choices.IsEmpty && settings.Whole(Least) > (long)choices.Length * (settings.Whole(MostOfEach) ?? Bound))
        {
            yield return new SettingProblem(
                Least,
                "All choices together do not come to the least number. Allow more of each, or ask for fewer."
            );
        }

        if (settings.Whole(LeastOfEach) > settings.Whole(MostOfEach))
        {
            yield return new SettingProblem(LeastOfEach, "The least number of each is greater than the greatest. Make one of them fit.");
        }
    }

    private sealed class Rule(ImmutableArray<Choice> choices, int least, int most, int leastOfEach, int mostOfEach) : AnswerRule
    {
        private static readonly Refusal NotCounts = new("not_counts");

        private readonly ChoiceIndex _index = new(choices);

        // A line each: the count, a times sign between blanks, and the label.
        public override int LongestText =>
            _index.LongestOf(
                Math.Min(choices.Length, most / leastOfEach),
                picks => DigitsOf(picks) + (picks * " × ".Length) + picks - 1,
                static _ => true
            );

        // The most digits that the counts of so many choices can have together: those that cost least come first, and each further digit of a count costs more.
        private int DigitsOf(int picks)
        {
            var (digits, left, from) = (picks * TextLimits.Number(leastOfEach).Length, most - (picks * leastOfEach), leastOfEach);
            for (var next = (int)Math.Pow(10, TextLimits.Number(leastOfEach).Length); next <= mostOfEach; (from, next) = (next, next * 10))
            {
                var grown = Math.Min(picks, left / (next - from));
                digits += grown;
                left -= grown * (next - from);
            }

            return digits;
        }

        /// <summary>How many in all.</summary>
        public override FactKind Fact => FactKind.Number;

        public override AnswerValue FactOf(AnswerValue value) =>
            AnswerValue.Of((decimal)value.Parts!.Values.Sum(static c => int.Parse(c, CultureInfo.InvariantCulture)));

        public override string FactText(AnswerValue number, string language) => number.ToString();

        public override JsonObject Schema =>
            new()
            {
                ["type"] = "object",
                ["minProperties"] = 1,
                ["propertyNames"] = _index.Schema,
                ["additionalProperties"] = new JsonObject { ["type"] = "string", ["pattern"] = "^[1-9][0-9]{0,3}$" },
            };

        public override ImmutableArray<AnswerValue> Samples
        {
            get
            {
                // As many of the first as may be, then of the next, until there are enough.
                var counts = new Dictionary<string, string>(StringComparer.Ordinal);
                var left = Math.Max(least, leastOfEach);
                foreach (var choice in choices.Where(static c => c.When is null).TakeWhile(_ => left > 0))
                {
                    var count = Math.Max(leastOfEach, Math.Min(left, mostOfEach));
                    counts[choice.Key] = TextLimits.Number(count);
                    left -= count;
                }

                return counts.Count == 0 || left > 0 ? [] : [AnswerValue.Of(counts)];
            }
        }

        public override ImmutableArray<Choice> Choices => choices;

        public override AnswerRule With(WordsThere words) => new Rule(words.Of(choices), least, most, leastOfEach, mostOfEach);

        public override PickLimits Picks => new(least, most, leastOfEach, mostOfEach);

        public override int TimesTaken(AnswerValue value, string choice) =>
            value.Parts!.TryGetValue(choice, out var count) ? int.Parse(count, CultureInfo.InvariantCulture) : 0;

        public override SettingProblem? Lacks => _index.Lacks;

        public override Reading Read(AnswerValue raw, IAnswerContext context)
        {
            if (raw.Parts is not { } parts)
            {
                return Reading.Refused(NotCounts);
            }

            var (counts, sum, canonical) = (new Dictionary<string, string>(StringComparer.Ordinal), 0, true);
            foreach (var (key, text) in parts)
            {
                var plain = text.Trim();
                if (_index.Find(key) is not (>= 0 and var at))
                {
                    return Reading.Refused(RefusalKeys.NotAChoice);
                }

                if (
                    !int.TryParse(plain.Length == 0 ? "0" : plain, NumberStyles.None, CultureInfo.InvariantCulture, out var count)
                    || count > Bound
                )
                {
                    return Reading.Refused(NotCounts with { Part = key });
                }

                if (count > 0 && Check(at, count, context) is { } refusal)
                {
                    return Reading.Refused(refusal with { Part = key });
                }

                canonical &= count > 0 && TextLimits.Number(count) == text;
                sum += count;
                if (count > 0)
                {
                    counts[key] = TextLimits.Number(count);
                }
            }

            return sum == 0 ? Reading.Empty
                : sum < least ? Reading.Refused(new Refusal("too_few_in_all", TextLimits.Number(least), TextLimits.Number(sum)))
                : sum > most ? Reading.Refused(new Refusal("too_many_in_all", TextLimits.Number(most), TextLimits.Number(sum)))
                : Reading.Of(canonical ? raw : AnswerValue.Of(counts));
        }

        public override string TextOf(AnswerValue value, string language) =>
            string.Join('\n', value.Parts!.OrderBy(p => _index.Find(p.Key)).Select(p => $"{p.Value} × {_index.LabelOf(p.Key, language)}"));

        private Refusal? Check(int at, int count, IAnswerContext context)
        {
            var name = choices[at].Label.ToString();
            return !context.Offers(at) ? new Refusal(RefusalKeys.NotOffered, name)
                : count < leastOfEach ? new Refusal("too_few_of_one", name, TextLimits.Number(leastOfEach))
                : count > mostOfEach ? new Refusal("too_many_of_one", name, TextLimits.Number(mostOfEach))
                : null;
        }
    }
}
