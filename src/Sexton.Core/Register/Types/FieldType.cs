using System.Collections.Immutable;
using System.Text.Json;

namespace Sexton.Core.Register.Types;

/// <summary>
/// A kind of answer. A new one is one file in this folder: its key, its settings with their sentences, and its rule.
/// </summary>
public abstract class FieldType
{
    /// <summary>The stable key, such as "line_text".</summary>
    public abstract string Key { get; }

    /// <summary>What the paragraph of a field calls it: "one line of text".</summary>
    public abstract string Name { get; }

    /// <summary>What the map calls it, in a word: "text".</summary>
    public abstract string ShortName { get; }

    /// <summary>The settings of this type; empty when it has none.</summary>
    public virtual ImmutableArray<TypeSetting> Settings => [];

    /// <summary>Binds settings, already found valid, to the rule that reads answers.</summary>
    public abstract AnswerRule Bind(SettingReader settings);

    /// <summary>
    /// The problems of a settings object: a name that the type does not have, or a value out of its range. Empty when it is valid.
    /// </summary>
    public IEnumerable<SettingProblem> Validate(IReadOnlyDictionary<string, JsonElement> settings)
    {
        foreach (var (name, value) in settings)
        {
            var setting = Settings.FirstOrDefault(s => string.Equals(s.Name, name, StringComparison.Ordinal));
            if (setting is null)
            {
                yield return new SettingProblem(name, $"“{Name}” has no setting “{name}”.");
            }
            else if (value.ValueKind != JsonValueKind.Number || !value.TryGetInt32(out var number) || number < setting.Least || number > setting.Most)
            {
                yield return new SettingProblem(name, $"Give a whole number from {setting.Least} to {setting.Most}.");
            }
        }
    }
}

/// <summary>A setting of a type: a whole number with its range, and the clause in which the interface shows it.</summary>
/// <param name="Name">The name in the settings object.</param>
/// <param name="Clause">The sentence, with {} where the value stands: "at most {} characters".</param>
/// <param name="Least">The least value.</param>
/// <param name="Most">The greatest value.</param>
/// <param name="Default">The value where none is set.</param>
public sealed record TypeSetting(string Name, string Clause, int Least, int Most, int Default);

/// <summary>What is wrong with one setting.</summary>
/// <param name="Name">The setting.</param>
/// <param name="Sentence">What is wrong and how to mend it.</param>
public sealed record SettingProblem(string Name, string Sentence);

/// <summary>Reads the settings of a field, with the type's defaults where none are set.</summary>
public sealed class SettingReader(FieldType type, IReadOnlyDictionary<string, JsonElement> settings)
{
    /// <summary>The value of a whole-number setting.</summary>
    public int Number(string name) =>
        settings.TryGetValue(name, out var value) ? value.GetInt32() : type.Settings.First(s => string.Equals(s.Name, name, StringComparison.Ordinal)).Default;
}
