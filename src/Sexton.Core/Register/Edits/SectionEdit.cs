using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Register.Settings;
using Sexton.Core.Routing;

namespace Sexton.Core.Register.Edits;

/// <summary>Changes to one setting of a section or of a step of one's own, named by its path as for fields.</summary>
public static class SectionEdit
{
    /// <summary>The value of a setting of a section.</summary>
    /// <exception cref="DraftEditException">There is no such setting.</exception>
    public static JsonElement Read(Section section, string path)
    {
        var (name, rest) = EditValue.Split(path);
        return name switch
        {
            "heading" => EditValue.Json(section.Heading.Texts.GetValueOrDefault(rest, "")),
            "text" => EditValue.Json(section.Text.Texts.GetValueOrDefault(rest, "")),
            "opening" => EditValue.Json(section.Opening.Texts.GetValueOrDefault(rest, "")),
            "asked_of" => EditValue.Json(section.AskedOf),
            "when" => EditValue.Json(section.When),
            "level" => EditValue.Json(section.Level),
            "step" => EditValue.Json(section.Step),
            "goes_to" => EditValue.Json(section.GoesTo.Contains(rest)),
            "goes_to_when" => EditValue.Json(section.GoesToWhen.GetValueOrDefault(rest)),
            "retired" => EditValue.Json(section.Retired),
            _ => throw Unknown("section", path),
        };
    }

    /// <summary>The section with one setting changed.</summary>
    /// <param name="section">The section.</param>
    /// <param name="path">The path of the setting.</param>
    /// <param name="value">The value.</param>
    /// <param name="destinations">Where answers can go.</param>
    /// <exception cref="DraftEditException">There is no such setting, or the value does not fit it.</exception>
    /// <example><code>SectionEdit.Apply(section, "heading.en", JsonSerializer.SerializeToElement("A card"), destinations)</code></example>
    public static Section Apply(Section section, string path, JsonElement value, DestinationIndex destinations)
    {
        var at = new EditContext(path, destinations);
        var (name, rest) = EditValue.Split(path);
        return name switch
        {
            "heading" => section with { Heading = EditValue.With(section.Heading, rest, value, path, EditValue.LongestLabel) },
            "text" => section with { Text = EditValue.With(section.Text, rest, value, path, EditValue.LongestText) },
            "opening" => section with { Opening = EditValue.With(section.Opening, rest, value, path, EditValue.LongestLabel) },
            "asked_of" => section with { AskedOf = EditValue.Scope(value, path) },
            "when" => section with { When = EditValue.Condition(value, path) },
            "level" => section with { Level = EditValue.Level(value, path) },
            "step" => section with { Step = EditValue.Key(value, path) ?? "" },
            "goes_to" => section with { GoesTo = at.Switched(section.GoesTo, section.Level, rest, EditValue.Truth(value, path)) },
            "goes_to_when" => section with
            {
                GoesToWhen = RouteWords.With(section.GoesToWhen, at.Known(rest).Key, EditValue.Condition(value, path)),
            },
            "retired" => section with { Retired = EditValue.Truth(value, path) },
            _ => throw Unknown("section", path),
        };
    }

    /// <summary>The value of a setting of a step.</summary>
    /// <exception cref="DraftEditException">There is no such setting.</exception>
    public static JsonElement Read(CustomStep step, string path)
    {
        var (name, rest) = EditValue.Split(path);
        return name switch
        {
            "name" => EditValue.Json(step.Name.Texts.GetValueOrDefault(rest, "")),
            "after" => EditValue.Json(step.After),
            _ => throw Unknown("step", path),
        };
    }

    /// <summary>The step with one setting changed.</summary>
    /// <exception cref="DraftEditException">There is no such setting, or the value does not fit it.</exception>
    public static CustomStep Apply(CustomStep step, string path, JsonElement value)
    {
        var (name, rest) = EditValue.Split(path);
        return name switch
        {
            "name" => step with { Name = EditValue.With(step.Name, rest, value, path, EditValue.LongestLabel) },
            "after" => step with { After = EditValue.Key(value, path) ?? "" },
            _ => throw Unknown("step", path),
        };
    }

    private static DraftEditException Unknown(string kind, string path) => new(path, $"A {kind} has no setting “{path}”.");
}
