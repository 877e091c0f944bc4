using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Types.Settings;

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

    /// <summary>What it is good for, in a line, for whoever chooses a kind.</summary>
    public virtual string Line => "";

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
    public JsonObject SettingsSchema => SettingsObject.Schema(Settings);

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
        var problems = SettingsObject.Validate(Name, Settings, settings).ToList();
        return problems.Count > 0 ? problems : Contradictions(new SettingReader(this, settings));
    }

    /// <summary>Settings that are each valid and cannot stand together.</summary>
    protected virtual IEnumerable<SettingProblem> Contradictions(SettingReader settings) => [];
}
