using System.Collections.Immutable;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Sentences;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;

namespace Sexton.Core.Routing;

/// <summary>A destination with its kind, and its settings read.</summary>
public sealed class BoundDestination
{
    /// <summary>Binds a destination.</summary>
    /// <param name="plain">The destination, with settings that its kind finds valid.</param>
    /// <param name="kind">Its kind.</param>
    /// <param name="wording">What the shop says; as shipped where it is left out.</param>
    public BoundDestination(Destination plain, DestinationKind kind, Wording? wording = null)
    {
        (Plain, Kind, Settings) = (plain, kind, new SettingReader(kind.Settings, plain.Settings, wording));
        Capacity = kind.CapacityOf(Settings);
        OneForEach = kind.OneForEach(Settings);
        (GoesBy, Picks) = (kind.GoesBy, kind.Picks);
        (Events, Carries) = (kind.EventsIn(Settings), kind.CarriesIn(Settings));
    }

    /// <summary>The destination as plain data.</summary>
    public Destination Plain { get; }

    /// <summary>Its kind.</summary>
    public DestinationKind Kind { get; }

    /// <summary>Its settings.</summary>
    public SettingReader Settings { get; }

    /// <summary>What it takes.</summary>
    public Capacity Capacity { get; }

    /// <summary>The key of the field for each answer of which one goes there, or null.</summary>
    public string? OneForEach { get; }

    /// <summary>Whether an order goes there as a whole, or once for each of its lines or units: those of the answer for each of which there is one.</summary>
    public Level GoesBy { get; internal set; }

    /// <summary>What its condition picks: whole orders, lines or units.</summary>
    public Level Picks { get; internal set; }

    /// <summary>The events that it is told; empty where it gets the order when it is released.</summary>
    public ImmutableArray<OrderEvent> Events { get; }

    /// <summary>The keys of the papers that go with what is sent there.</summary>
    public ImmutableArray<string> Carries { get; }

    /// <summary>Those of them that are there and used.</summary>
    public ImmutableArray<BoundDestination> Papers { get; internal set; } = [];

    /// <summary>Which orders, lines or units go there, bound; null for all.</summary>
    internal BoundCondition? Gets { get; set; }

    /// <summary>When no prices stand there, bound; null for never.</summary>
    internal BoundCondition? WithoutPricesWhen { get; set; }

    /// <summary>Who comes before it where a line goes to one of several makers; empty where it makes nothing.</summary>
    internal ImmutableArray<BoundDestination> Before { get; set; } = [];

    /// <summary>The field whose answer gives the day of its release; null where none does.</summary>
    internal AnswerSource? Day { get; set; }

    /// <summary>The stable key.</summary>
    public string Key => Plain.Key;

    /// <summary>What the interface calls it.</summary>
    public string Name => Plain.Name;

    /// <summary>The language in which an order is written there.</summary>
    /// <param name="ofOrder">The language of the order.</param>
    public string LanguageOf(string ofOrder) => Kind.LanguageIn(Settings) ?? ofOrder;

    /// <summary>Whether prices stand there of an order, as far as its kind shows any.</summary>
    /// <param name="facts">What is known of the order.</param>
    public bool HasPrices(IFacts facts) => Kind.ShowsPrices && WithoutPricesWhen?.Holds(facts, Place.Order) != true;

    /// <summary>Whether anything new goes there: it is neither switched off nor retired.</summary>
    public bool IsOn => Plain is { SwitchedOff: false, Retired: false };

    /// <summary>What a sentence calls it: "the cart line", or its own name in quotes.</summary>
    public string Phrase => Name == Kind.Name ? Kind.Phrase : $"“{Name}”";

    /// <summary>What a sentence that begins with it calls it: "The cart line".</summary>
    public string Beginning => string.Concat(Phrase[..1].ToUpperInvariant(), Phrase.AsSpan(1));

    /// <summary>Whether it has a place for answers of a level.</summary>
    public bool Takes(Level level) => Capacity.Levels.Contains(level);

    /// <summary>With what the answers to a field stand there: with the order, a line or a single one of it.</summary>
    /// <param name="field">The key of the field.</param>
    /// <param name="level">How often it is asked.</param>
    public Level StandsWith(string field, Level level) => IsWithOrder(field) ? Level.Order : level;

    /// <summary>Whether the answers to a field stand there with the order, whatever they are about.</summary>
    /// <param name="field">The key of the field.</param>
    public bool IsWithOrder(string field) => Kind.HasNamedValues && NamesOf(field).WithOrder;

    /// <summary>Why it has no place for answers of a level, in a sentence; null where it has one.</summary>
    public string? WhyLevelNotTaken(Level level) =>
        Takes(level) ? null : $"An answer given once per {level.ToString().ToLowerInvariant()} has no place in {Phrase}.";

    /// <summary>The greatest length in characters of an answer of a level; null for no limit.</summary>
    public int? Longest(Level level) => level == Level.Order ? Capacity.LongestOrderText : Capacity.LongestLineText;

    /// <summary>The room that the note of a level has for what is too long; 0 where there is none.</summary>
    public int LongestNote(Level level) => level == Level.Order ? Capacity.LongestOrderNote : Capacity.LongestLineNote;

    /// <summary>What is done there with an answer to a field that does not fit.</summary>
    /// <param name="field">The key of the field.</param>
    public Otherwise OtherwiseOf(string field) => NamesOf(field).Otherwise ?? Plain.Otherwise;

    /// <summary>What a field and its answers are called there.</summary>
    /// <param name="field">The key of the field.</param>
    public NamesThere NamesOf(string field) => Plain.Names.GetValueOrDefault(field) ?? NamesThere.None;

    /// <summary>Whether the answers to a field stand there as values under its name, and not as lines of text.</summary>
    /// <param name="field">The key of the field.</param>
    public bool IsAsValue(string field) => Kind.HasNamedValues && NamesOf(field).AsValue;

    /// <summary>Whether a program finds the answers to a field there by its name.</summary>
    /// <param name="field">The key of the field.</param>
    public bool FindsByName(string field) => Kind.FindsByName || IsAsValue(field);

    /// <summary>The name that the answers to a field have there; null where they stand under their question.</summary>
    /// <param name="field">The key of the field.</param>
    /// <param name="language">The language (BCP 47).</param>
    public string? NameThere(string field, string language) =>
        NamesOf(field).Name is { IsEmpty: false } name ? name.In(language)
        : FindsByName(field) ? field
        : null;

    /// <summary>The rule of a field with the words of the destination.</summary>
    /// <param name="field">The key of the field.</param>
    /// <param name="rule">Its rule.</param>
    public AnswerRule RuleOf(string field, AnswerRule rule) => NamesOf(field).Words is { IsEmpty: false } words ? rule.With(words) : rule;

    /// <summary>Why it cannot take every answer to a field, in a sentence; null where it can.</summary>
    /// <param name="field">The key of the field.</param>
    /// <param name="plain">The rule of the field.</param>
    /// <param name="level">How often the field is asked.</param>
    /// <param name="privacy">Whom its answers are about.</param>
    /// <example><code>destination.WhyNot("wording", rule, Level.Line) // "An answer may have 120 characters, and the back office takes 60."</code></example>
    public string? WhyNot(string field, AnswerRule plain, Level level, Privacy privacy = Privacy.Open)
    {
        var (rule, stands) = (RuleOf(field, plain), StandsWith(field, level));
        if (WhyLevelNotTaken(level) is { } noPlace)
        {
            return noPlace;
        }

        if (IsAboutAnother(level, privacy))
        {
            return $"It is about somebody else than whoever gets {Phrase}.";
        }

        // A file is no text: it goes beside the texts, and no limit on them is one on it.
        if (rule.HoldsFiles)
        {
            return Capacity.Files ? null : $"Its answers are files, and {Phrase} takes none.";
        }

        return WhyTooLong(field, rule, stands)
            ?? (
                Capacity.Characters is { } characters && OtherwiseOf(field) != Otherwise.Call && !rule.IsWrittenIn(characters.HasAll)
                    ? $"An answer may have any character, and {Phrase} takes only {characters.Name}."
                    : null
            );
    }

    /// <summary>What is done with the answers to a field that are longer than it takes; null where none can be.</summary>
    /// <param name="field">The key of the field.</param>
    /// <param name="rule">The rule of the field.</param>
    /// <param name="level">How often the field is asked.</param>
    public Otherwise? WhenTooLong(string field, AnswerRule rule, Level level) =>
        Longest(StandsWith(field, level)) is { } takes && !rule.HoldsFiles && RuleOf(field, rule).LongestText > takes
            ? OtherwiseOf(field)
            : null;

    /// <summary>Whether answers are about somebody else than whoever an answer names as the one who gets it.</summary>
    /// <param name="level">How often they are given.</param>
    /// <param name="privacy">Whom they are about.</param>
    public bool IsAboutAnother(Level level, Privacy privacy) =>
        Kind.Audience == Audience.Recipient && (privacy == Privacy.ShoppersOwn || (privacy == Privacy.Personal && level != GoesBy));

    private string? WhyTooLong(string field, AnswerRule rule, Level level)
    {
        if (Longest(level) is not { } takes || rule.LongestText <= takes)
        {
            return null;
        }

        var sentence = $"An answer may have {rule.LongestText} characters, and {Phrase} takes {takes}";
        return OtherwiseOf(field) switch
        {
            Otherwise.Refuse => sentence + ".",

            // One of them is the mark.
            Otherwise.Note when rule.LongestText - (takes - 1) > LongestNote(level) => LongestNote(level) == 0
                ? sentence + " and has no note for the rest."
                : $"{sentence} and {LongestNote(level)} more in its note.",
            _ => null,
        };
    }
}
