using System.Collections.Frozen;
using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>One of a list. The value is the key of the choice, the text its label.</summary>
public sealed class OneOf : FieldType
{
    /// <summary>The name of the setting that holds the list.</summary>
    public const string Choices = "choices";

    /// <summary>The choices that the settings of a field list; none for a field that has none.</summary>
    public static ImmutableArray<Choice> ChoicesIn(IReadOnlyDictionary<string, JsonElement> settings) =>
        ChoicesSetting.Read(settings.TryGetValue(Choices, out var choices) ? choices : null);

    /// <summary>The key of this type.</summary>
    public const string TypeKey = "one_of";

    /// <inheritdoc/>
    public override string Key => TypeKey;

    /// <inheritdoc/>
    public override string Name => "one of";

    /// <inheritdoc/>
    public override string ShortName => "one of";

    /// <inheritdoc/>
    public override string Line => "one choice of a list";

    /// <inheritdoc/>
    public override ImmutableArray<TypeSetting> Settings { get; } =
    [
        new ChoicesSetting(Choices, "{}"),
        new OptionSetting("laid_out", "laid out {}", "", [new("rows", "in rows"), new("list", "in a list that opens")])
        {
            Default = JsonSerializer.SerializeToElement("rows"),
            ForTheForm = true,
        },
    ];

    /// <inheritdoc/>
    public override string Describe(SettingReader settings) => $"{ShortName} {settings.Choices(Choices).Length}";

    /// <inheritdoc/>
    public override AnswerRule Bind(SettingReader settings) => new ChoiceRule(settings.Choices(Choices));
}

/// <summary>Reads the key of one of several choices.</summary>
/// <param name="choices">The choices in their order.</param>
internal class ChoiceRule(ImmutableArray<Choice> choices) : AnswerRule
{
    private readonly ChoiceIndex _index = new(choices);

    public override int LongestText => _index.LongestLabel;

    public override FactKind Fact => FactKind.Choice;

    public override JsonObject Schema => _index.Schema;

    public override ImmutableArray<AnswerValue> Samples =>
        [.. choices.Where(static c => c.When is null).Select(static c => AnswerValue.Of(c.Key))];

    public override ImmutableArray<Choice> Choices => choices;

    public override AnswerRule With(WordsThere words) => new ChoiceRule(words.Of(choices));

    public override SettingProblem? Lacks => _index.Lacks;

    public override Reading Read(AnswerValue raw, IAnswerContext context) =>
        raw.Text is not { } key || _index.Find(key) is not (>= 0 and var at) ? Reading.Refused(RefusalKeys.NotAChoice)
        : context.Offers(at) ? Reading.Of(raw)
        : Reading.Refused(new Refusal(RefusalKeys.NotOffered, choices[at].Label.ToString()));

    public override string TextOf(AnswerValue value, string language) => _index.LabelOf(value.Text!, language);
}

/// <summary>Choices found by their key.</summary>
/// <param name="choices">The choices in their order.</param>
internal sealed class ChoiceIndex(ImmutableArray<Choice> choices)
{
    private readonly FrozenDictionary<string, int> _indexes = choices
        .Select(static (c, i) => (c.Key, i))
        .ToFrozenDictionary(static c => c.Key, static c => c.i, StringComparer.Ordinal);

    /// <summary>The length of the longest label in any language.</summary>
    public int LongestLabel { get; } =
        choices.SelectMany(static c => c.Label.Texts.Values).Select(static t => Graphemes.Count(t)).DefaultIfEmpty(0).Max();

    /// <summary>
    /// The length of the longest text of several choices, all in one language: the longest labels, and what stands beside and between them. 0 where nothing can be picked.
    /// </summary>
    /// <param name="most">How many can be picked.</param>
    /// <param name="beside">What stands beside and between the labels of so many picks.</param>
    /// <param name="counts">Which choices can be picked together.</param>
    public int LongestOf(int most, Func<int, int> beside, Func<Choice, bool> counts)
    {
        var together = choices.Where(counts).ToList();
        var longest = 0;
        foreach (var language in together.SelectMany(static c => c.Label.Texts.Keys).Distinct(StringComparer.Ordinal))
        {
            var sum = 0;
            foreach (
                var (label, i) in together
                    .Select(c => Graphemes.Count(c.Label.In(language)))
                    .OrderDescending()
                    .Take(most)
                    .Select(static (l, i) => (l, i))
            )
            {
                sum += label;
                longest = Math.Max(longest, sum + beside(i + 1));
            }
        }

        return longest;
    }

    /// <summary>The JSON Schema of a key.</summary>
    public JsonObject Schema =>
        choices.IsEmpty
            ? new() { ["not"] = new JsonObject() }
            : new() { ["enum"] = new JsonArray([.. choices.Select(static c => (JsonNode)JsonValue.Create(c.Key))]) };

    /// <summary>That there is nothing to choose from, where that is so.</summary>
    public SettingProblem? Lacks { get; } = choices.IsEmpty ? new SettingProblem(OneOf.Choices, "It offers nothing. Add choices.") : null;

    /// <summary>The index of a choice, or -1.</summary>
    public int Find(string key) => _indexes.TryGetValue(key, out var at) ? at : -1;

    /// <summary>The label of a choice.</summary>
    public string LabelOf(string key, string language) => choices[_indexes[key]].Label.In(language);
}
