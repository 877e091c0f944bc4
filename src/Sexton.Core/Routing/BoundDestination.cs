using Sexton.Core.Facts;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;

namespace Sexton.Core.Routing;

/// <summary>A destination with its kind, and its settings read.</summary>
public sealed class BoundDestination
{
    /// <summary>Binds a destination.</summary>
    /// <param name="plain">The destination, with settings that its kind finds valid.</param>
    /// <param name="kind">Its kind.</param>
    public BoundDestination(Destination plain, DestinationKind kind)
    {
        (Plain, Kind, Settings) = (plain, kind, new SettingReader(kind.Settings, plain.Settings));
        Capacity = kind.CapacityOf(Settings);
    }

    /// <summary>The destination as plain data.</summary>
    public Destination Plain { get; }

    /// <summary>Its kind.</summary>
    public DestinationKind Kind { get; }

    /// <summary>Its settings.</summary>
    public SettingReader Settings { get; }

    /// <summary>What it takes.</summary>
    public Capacity Capacity { get; }

    /// <summary>The stable key.</summary>
    public string Key => Plain.Key;

    /// <summary>What the interface calls it.</summary>
    public string Name => Plain.Name;

    /// <summary>What a sentence calls it: "the cart line", or its own name in quotes.</summary>
    public string Phrase => Name == Kind.Name ? Kind.Phrase : $"“{Name}”";

    /// <summary>Whether it has a place for answers of a level.</summary>
    public bool Takes(Level level) => Capacity.Levels.Contains(level);

    /// <summary>Why it has no place for answers of a level, in a sentence; null where it has one.</summary>
    public string? WhyLevelNotTaken(Level level) =>
        Takes(level) ? null : $"An answer given once per {level.ToString().ToLowerInvariant()} has no place in {Phrase}.";

    /// <summary>The greatest length in characters of an answer of a level; null for no limit.</summary>
    public int? Longest(Level level) => level == Level.Order ? Capacity.LongestOrderText : Capacity.LongestLineText;

    /// <summary>What a field and its answers are called there.</summary>
    /// <param name="field">The key of the field.</param>
    public NamesThere NamesOf(string field) => Plain.Names.GetValueOrDefault(field) ?? NamesThere.None;

    /// <summary>The rule of a field with the words of the destination.</summary>
    /// <param name="field">The key of the field.</param>
    /// <param name="rule">Its rule.</param>
    public AnswerRule RuleOf(string field, AnswerRule rule) => NamesOf(field).Words is { IsEmpty: false } words ? rule.With(words) : rule;

    /// <summary>Why it cannot take every answer to a field, in a sentence; null where it can.</summary>
    /// <param name="field">The key of the field.</param>
    /// <param name="plain">The rule of the field.</param>
    /// <param name="level">How often the field is asked.</param>
    /// <example><code>destination.WhyNot("wording", rule, Level.Line) // "An answer may have 120 characters, and the back office takes 60."</code></example>
    public string? WhyNot(string field, AnswerRule plain, Level level)
    {
        var rule = RuleOf(field, plain);
        if (WhyLevelNotTaken(level) is { } noPlace)
        {
            return noPlace;
        }

        // A file is no text: it goes beside the texts, and no limit on them is one on it.
        if (rule.HoldsFiles)
        {
            return Capacity.Files ? null : $"Its answers are files, and {Phrase} takes none.";
        }

        if (Longest(level) is { } takes && rule.LongestText > takes)
        {
            return $"An answer may have {rule.LongestText} characters, and {Phrase} takes {takes}.";
        }

        return Capacity.Characters is { } characters && !rule.IsWrittenIn(characters.HasAll)
            ? $"An answer may have any character, and {Phrase} takes only {characters.Name}."
            : null;
    }
}
