using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Formulas;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Types;

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

    /// <summary>Whether its empty control can show an example.</summary>
    public virtual bool TakesPlaceholder => false;

    /// <summary>Whether it only says something: there is no answer to be given, kept or sent.</summary>
    public virtual bool AsksNothing => false;

    /// <summary>Whether answers of this kind say something of a person, so that a new field begins with that.</summary>
    public virtual bool IsPersonal => false;

    /// <summary>Whether nobody enters its answers: they are worked out.</summary>
    public virtual bool IsComputed => false;

    /// <summary>The settings of this type; empty when it has none.</summary>
    public virtual ImmutableArray<TypeSetting> Settings => [];

    /// <summary>The JSON Schema (draft 2020-12) of its settings object.</summary>
    public JsonObject SettingsSchema =>
        new()
        {
            ["type"] = "object",
            ["additionalProperties"] = false,
            ["properties"] = new JsonObject(Settings.Select(static s => new KeyValuePair<string, JsonNode?>(s.Name, s.Schema))),
        };

    /// <summary>What the map says of a field of this type: "text, 24", "one of 3".</summary>
    public virtual string Describe(SettingReader settings) => ShortName;

    /// <summary>Binds settings, already found valid, to the rule that reads answers.</summary>
    public abstract AnswerRule Bind(SettingReader settings);

    /// <summary>
    /// The problems of a settings object: a name that the type does not have, a value that a setting does not take, or values that
    /// contradict each other. Empty when it is valid.
    /// </summary>
    public IEnumerable<SettingProblem> Validate(IReadOnlyDictionary<string, JsonElement> settings)
    {
        var valid = true;
        foreach (var (name, value) in settings)
        {
            var setting = Settings.FirstOrDefault(s => string.Equals(s.Name, name, StringComparison.Ordinal));
            if ((setting is null ? $"“{Name}” has no setting “{name}”." : setting.Check(value)) is { } sentence)
            {
                valid = false;
                yield return new SettingProblem(name, sentence);
            }
        }

        foreach (var problem in valid ? Contradictions(new SettingReader(this, settings)) : [])
        {
            yield return problem;
        }
    }

    /// <summary>Settings that are each valid and cannot stand together.</summary>
    protected virtual IEnumerable<SettingProblem> Contradictions(SettingReader settings) => [];
}

/// <summary>What is wrong with one setting.</summary>
/// <param name="Name">The setting.</param>
/// <param name="Sentence">What is wrong and how to mend it.</param>
public sealed record SettingProblem(string Name, string Sentence);

/// <summary>Reads the settings of a field, with the type's defaults where none are set.</summary>
/// <param name="type">The type.</param>
/// <param name="settings">The settings that were given.</param>
public sealed class SettingReader(FieldType type, IReadOnlyDictionary<string, JsonElement> settings)
{
    /// <summary>The value of a setting, or null where neither one is given nor a default is there.</summary>
    public JsonElement? Find(string name) =>
        settings.TryGetValue(name, out var value)
            ? value
            : type.Settings.First(s => string.Equals(s.Name, name, StringComparison.Ordinal)).Default;

    /// <summary>A whole number, or null.</summary>
    public int? Whole(string name) => Find(name)?.GetInt32();

    /// <summary>An exact number, or null.</summary>
    public decimal? Number(string name) => Find(name)?.GetDecimal();

    /// <summary>A text, or null.</summary>
    public string? Text(string name) => Find(name)?.GetString();

    /// <summary>Whether something is so.</summary>
    public bool Is(string name) => Find(name)?.GetBoolean() ?? false;

    /// <summary>A list of texts; empty where none is set.</summary>
    public ImmutableArray<string> Texts(string name) =>
        Find(name) is { } list ? [.. list.EnumerateArray().Select(static t => t.GetString()!)] : [];

    /// <summary>A text in languages; empty where none is set.</summary>
    public LanguageMap Wording(string name) => Find(name)?.Deserialize<LanguageMap>(DocumentJson.Options) ?? LanguageMap.Empty;

    /// <summary>A day, or null.</summary>
    public DayLimit? Day(string name) => Find(name)?.Deserialize<DayLimit>(DocumentJson.Options);

    /// <summary>The rows of a formula.</summary>
    public ImmutableArray<FormulaRow> Formula(string name) => FormulaSetting.Read(Find(name));

    /// <summary>A list of choices.</summary>
    public ImmutableArray<Choice> Choices(string name) => ChoicesSetting.Read(Find(name));
}
