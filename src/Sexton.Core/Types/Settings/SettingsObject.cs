using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Formulas;
using Sexton.Core.Sentences;
using Sexton.Core.Values;

namespace Sexton.Core.Types.Settings;

/// <summary>The settings of a kind of answer or of destination as one object, with what each of them says of itself.</summary>
public static class SettingsObject
{
    /// <summary>The JSON Schema (draft 2020-12) of the object.</summary>
    public static JsonObject Schema(ImmutableArray<TypeSetting> settings) =>
        new()
        {
            ["type"] = "object",
            ["additionalProperties"] = false,
            ["properties"] = new JsonObject(settings.Select(static s => new KeyValuePair<string, JsonNode?>(s.Name, s.Schema))),
        };

    /// <summary>The problems of an object: a name that there is not, or a value that a setting does not take. Empty when it is valid.</summary>
    /// <param name="kind">What the kind is called.</param>
    /// <param name="settings">The settings of the kind.</param>
    /// <param name="values">The values given.</param>
    public static IEnumerable<SettingProblem> Validate(
        string kind,
        ImmutableArray<TypeSetting> settings,
        IReadOnlyDictionary<string, JsonElement> values
    )
    {
        foreach (var (name, value) in values)
        {
            var setting = settings.FirstOrDefault(s => string.Equals(s.Name, name, StringComparison.Ordinal));
            if ((setting is null ? $"“{kind}” has no setting “{name}”." : setting.Check(value)) is { } sentence)
            {
                yield return new SettingProblem(name, sentence);
            }
        }
    }
}

/// <summary>What is wrong with one setting.</summary>
/// <param name="Name">The setting.</param>
/// <param name="Sentence">What is wrong and how to mend it.</param>
public sealed record SettingProblem(string Name, string Sentence);

/// <summary>Reads settings, with the defaults of their kind where none are set.</summary>
/// <param name="settings">The settings of the kind.</param>
/// <param name="values">The values given, found valid.</param>
/// <param name="wording">What the shop says; as shipped where it is left out.</param>
public sealed class SettingReader(
    ImmutableArray<TypeSetting> settings,
    IReadOnlyDictionary<string, JsonElement> values,
    Wording? wording = null
)
{
    /// <summary>Reads the settings of a field.</summary>
    /// <param name="type">Its kind of answer.</param>
    /// <param name="values">The values given, found valid.</param>
    /// <param name="wording">What the shop says; as shipped where it is left out.</param>
    public SettingReader(FieldType type, IReadOnlyDictionary<string, JsonElement> values, Wording? wording = null)
        : this(type.Settings, values, wording) { }

    /// <summary>What the shop says.</summary>
    public Wording Shop { get; } = wording ?? Sentences.Wording.Usual;

    /// <summary>The value of a setting, or null where neither one is given nor a default is there.</summary>
    public JsonElement? Find(string name) =>
        values.TryGetValue(name, out var value)
            ? value
            : settings.First(s => string.Equals(s.Name, name, StringComparison.Ordinal)).Default;

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

    /// <summary>A text in languages; where none is set what the shop says there, or nothing.</summary>
    public LanguageMap Wording(string name)
    {
        var setting = settings.First(s => string.Equals(s.Name, name, StringComparison.Ordinal));
        var usual =
            setting is WordingSetting { Sentence: { } key } ? Shop[key]
            : setting.Default is { } said ? Map(said)
            : LanguageMap.Empty;
        return values.TryGetValue(name, out var value) ? Map(value).Over(usual) : usual;

        static LanguageMap Map(JsonElement texts) => texts.Deserialize<LanguageMap>(DocumentJson.Options)!;
    }

    /// <summary>A day, or null.</summary>
    public DayLimit? Day(string name) => Find(name)?.Deserialize<DayLimit>(DocumentJson.Options);

    /// <summary>The rows of a formula.</summary>
    public ImmutableArray<FormulaRow> Formula(string name) => FormulaSetting.Read(Find(name));

    /// <summary>A list of choices.</summary>
    public ImmutableArray<Choice> Choices(string name) => ChoicesSetting.Read(Find(name));
}
