using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Files;
using Sexton.Core.Formulas;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

/// <summary>The bound form of a type: brings an answer to its canonical value, checks it, and writes it for people.</summary>
public abstract class AnswerRule
{
    /// <summary>The greatest length in characters that an answer's text for systems can have; destinations are checked against it.</summary>
    public abstract int LongestText { get; }

    /// <summary>What a condition can test of it.</summary>
    public abstract FactKind Fact { get; }

    /// <summary>What a condition sees of a canonical value: the value itself, or the one thing in it that can be compared.</summary>
    public virtual AnswerValue FactOf(AnswerValue value) => value;

    /// <summary>A number that a condition sees or compares with, in words.</summary>
    public virtual string FactText(AnswerValue number, string language) => TextOf(number, language);

    /// <summary>The JSON Schema (draft 2020-12) of a canonical value, as far as a schema can say it.</summary>
    public abstract JsonObject Schema { get; }

    /// <summary>Answers that are accepted and reach the limits, for previews and trial carts.</summary>
    public abstract ImmutableArray<AnswerValue> Samples { get; }

    /// <summary>What stands beside the control: the unit of a number, the sign of a currency; "" for none.</summary>
    public virtual string Unit => "";

    /// <summary>What the form needs to know beside the settings that are marked for it, by name.</summary>
    /// <param name="language">The language of the shopper.</param>
    public virtual ImmutableDictionary<string, JsonElement> ForTheForm(string language) => ImmutableDictionary<string, JsonElement>.Empty;

    /// <summary>What of its answers an amount of money can be taken times.</summary>
    public virtual ImmutableArray<AnswerMeasure> PricedBy =>
        Fact is FactKind.Number or FactKind.List ? [AnswerMeasure.Answer, AnswerMeasure.Count] : [AnswerMeasure.Answer];

    /// <summary>The rows by which its answers are worked out; empty where they are entered.</summary>
    public virtual ImmutableArray<FormulaRow> Formula => [];

    /// <summary>The answer that an exact number comes to, by the digits that the rule keeps.</summary>
    internal virtual AnswerValue? Rounded(Fraction number) => number.ToDecimal(0) is { } whole ? AnswerValue.Of(whole) : null;

    /// <summary>Whether the form does not show it although it is there.</summary>
    public virtual bool IsKeptOffTheForm => false;

    /// <summary>What is said where an answer must be given and is not.</summary>
    public virtual Refusal Missing => new(RefusalKeys.Required);

    /// <summary>What must be set before anybody can answer, such as a list to choose from; null when nothing lacks.</summary>
    public virtual SettingProblem? Lacks => null;

    /// <summary>The list it offers; empty for a type without one.</summary>
    public virtual ImmutableArray<Choice> Choices => [];

    /// <summary>What of its answers can have another word at a destination.</summary>
    public virtual ImmutableArray<NamedValue> NamedValues => [.. Choices.Select(static c => new NamedValue(c.Key, c.Label))];

    /// <summary>Whether its answers hold a day, which can be written in another form at a destination.</summary>
    public virtual bool HoldsDay => false;

    /// <summary>Which days can be chosen, seen from a day; null where all can, or it holds none.</summary>
    /// <param name="today">Today, in the time zone of the shop.</param>
    public virtual OpenDays? OpenDaysOn(DateOnly today) => null;

    /// <summary>The same rule with other words for what its answers can be; itself where it has none of these.</summary>
    /// <param name="words">The words.</param>
    public virtual AnswerRule With(WordsThere words) => this;

    /// <summary>How much of its list an answer can take.</summary>
    public virtual PickLimits Picks => PickLimits.One;

    /// <summary>Which numbers its answers can be; null where they are none.</summary>
    public virtual NumberRange? Range => null;

    /// <summary>The least number that an answer can be; null where there is no end, or it is no number.</summary>
    public virtual decimal? LeastNumber => null;

    /// <summary>How often a choice was taken in a canonical answer.</summary>
    /// <param name="value">The answer.</param>
    /// <param name="choice">The key of the choice.</param>
    public virtual int TimesTaken(AnswerValue value, string choice) => value.Text == choice ? 1 : 0;

    /// <summary>
    /// Reads an answer that was entered and is not blank. Where it is canonical already the very same value is given back.
    /// </summary>
    /// <param name="raw">What was entered.</param>
    /// <param name="context">When and of whom it is asked.</param>
    public abstract Reading Read(AnswerValue raw, IAnswerContext context);

    /// <summary>
    /// The text of a canonical value as people read it: on pages, in messages, on papers. Dates, numbers and amounts stand as their language writes them.
    /// Lines are separated by LF.
    /// </summary>
    /// <param name="value">The canonical value.</param>
    /// <param name="language">The language of the shopper.</param>
    public abstract string TextOf(AnswerValue value, string language);

    /// <summary>The same as systems get it: a day as ISO 8601 writes it, a number with a point, an amount with the code of its currency (ISO 4217), a country by its code (ISO 3166-1).</summary>
    /// <param name="value">The canonical value.</param>
    /// <param name="language">The language of the shopper, in which words stand here too.</param>
    public virtual string SystemTextOf(AnswerValue value, string language) => TextOf(value, language);

    /// <summary>Whether all its answers, as systems get them, can be written with some characters only.</summary>
    /// <param name="hasAll">Whether all characters of a text are among them.</param>
    public virtual bool IsWrittenIn(Func<string, bool> hasAll) =>
        Samples.All(s => hasAll(SystemTextOf(s, LanguageMap.Fallback))) && Choices.All(c => c.Label.Texts.Values.All(hasAll));

    /// <summary>Whether a registry is to be asked about an answer, which is then one text, before it is taken.</summary>
    public virtual bool LooksUp => false;

    /// <summary>Whether its answers are files, which are entered as the ids under which they were uploaded.</summary>
    public bool HoldsFiles => LargestFile > 0;

    /// <summary>The greatest size of a file of its answers, in bytes; 0 where they are no files.</summary>
    public virtual long LargestFile => 0;

    /// <summary>Whether pictures are brought upright and freed of what stands beside them when they come.</summary>
    public virtual bool RewritesPictures => false;

    /// <summary>A longer text that a canonical value keeps beside its own, word for word; null for a type that keeps none.</summary>
    public virtual string? KeptText(AnswerValue value) => null;
}

/// <summary>When and of whom an answer is asked, as far as reading it depends on that.</summary>
public interface IAnswerContext
{
    /// <summary>Today, in the time zone of the shop.</summary>
    DateOnly Today { get; }

    /// <summary>The language in which it is asked (BCP 47): in it amounts are read and refusals written.</summary>
    string Language => LanguageMap.Fallback;

    /// <summary>The country of the shop (ISO 3166-1 alpha-2); "" where it is not known.</summary>
    string Home => "";

    /// <summary>What a registry said of a number.</summary>
    /// <param name="number">The canonical number.</param>
    RegistryFinding Registry(string number) => RegistryFinding.NotAsked;

    /// <summary>The file with an id that was uploaded for this cart, or null.</summary>
    /// <param name="id">The id under which it was uploaded.</param>
    KeptFile? File(string id) => null;

    /// <summary>Whether a choice of the field being read is offered here.</summary>
    /// <param name="choice">Its index in <see cref="AnswerRule.Choices"/>.</param>
    bool Offers(int choice);
}

/// <summary>A rule for an answer of one text: what is no text is refused, and the canonical text is read.</summary>
public abstract class TextRule : AnswerRule
{
    /// <inheritdoc/>
    public override FactKind Fact => FactKind.Text;

    /// <inheritdoc/>
    public sealed override ImmutableArray<AnswerMeasure> PricedBy =>
        [AnswerMeasure.Answer, AnswerMeasure.Letter, AnswerMeasure.Character, AnswerMeasure.Word];

    /// <inheritdoc/>
    public override JsonObject Schema => new() { ["type"] = "string", ["minLength"] = 1 };

    /// <inheritdoc/>
    public sealed override Reading Read(AnswerValue raw, IAnswerContext context)
    {
        if (raw.Text is null || !CanonicalText.TryMake(raw.Text, out var text))
        {
            return Reading.Refused(RefusalKeys.NotText);
        }

        if (CanonicalText.IsBlank(text))
        {
            return Reading.Empty;
        }

        text = Complete(text);
        return Check(text, context) is { } refusal ? Reading.Refused(refusal) : Reading.Of(text == raw.Text ? raw : AnswerValue.Of(text));
    }

    /// <inheritdoc/>
    public sealed override string TextOf(AnswerValue value, string language) => value.Text!;

    /// <inheritdoc/>
    public override bool IsWrittenIn(Func<string, bool> hasAll) => false;

    /// <summary>Puts in what people leave out by habit; what is complete stays as it is.</summary>
    protected virtual string Complete(string text) => text;

    /// <summary>What is wrong with a canonical text that is not empty, or null.</summary>
    protected abstract Refusal? Check(string text, IAnswerContext context);
}

/// <summary>What reading an answer gave: a canonical value, nothing (left empty), or what is wrong with it.</summary>
public readonly record struct Reading
{
    private Reading(AnswerValue? value, Refusal? refusal)
    {
        Value = value;
        Refusal = refusal;
    }

    /// <summary>Nothing was entered.</summary>
    public static readonly Reading Empty = new(null, null);

    /// <summary>The canonical value; null when left empty or refused.</summary>
    public AnswerValue? Value { get; }

    /// <summary>What is wrong, or null.</summary>
    public Refusal? Refusal { get; }

    /// <summary>A canonical value.</summary>
    public static Reading Of(AnswerValue value) => new(value, null);

    /// <summary>A refused answer.</summary>
    public static Reading Refused(Refusal refusal) => new(null, refusal);

    /// <summary>A refused answer whose sentence has nothing to fill in.</summary>
    public static Reading Refused(string key) => new(null, new Refusal(key));
}

/// <summary>Why an answer was refused.</summary>
/// <param name="Key">The stable code, under which the shop has its sentence.</param>
/// <param name="First">What the sentence fills in first, or null.</param>
/// <param name="Second">What it fills in second, or null.</param>
/// <param name="Part">The part of the answer that it is about, or null.</param>
/// <param name="Wording">The sentence itself where the manager gave one, or null.</param>
/// <param name="Third">What the sentence fills in third, or null.</param>
/// <param name="Sentence">The key of its sentence, where that is not the code.</param>
public readonly record struct Refusal(
    string Key,
    string? First = null,
    string? Second = null,
    string? Part = null,
    LanguageMap? Wording = null,
    string? Third = null,
    string? Sentence = null
);
