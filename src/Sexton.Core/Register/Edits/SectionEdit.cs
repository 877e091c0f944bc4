using System.Text.Json;
using Sexton.Core.Facts;
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
    /// <exception cref="DraftEditException">There is no such setting, or the value does not fit it.</exception>
    public static Section Apply(Section section, string path, JsonElement value)
    {
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
            "goes_to" => section with { GoesTo = GoesTo(section, rest, path, EditValue.Truth(value, path)) },
            "goes_to_when" => section with { GoesToWhen = GoesToWhen(section, rest, path, EditValue.Condition(value, path)) },
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

    private static System.Collections.Immutable.ImmutableSortedSet<string> GoesTo(Section section, string destination, string path, bool on)
    {
        var known = DestinationIndex.Find(destination) ?? throw new DraftEditException(path, $"There is no destination “{destination}”.");
        return !on ? section.GoesTo.Remove(destination)
            : known.Takes(section.Level) ? section.GoesTo.Add(destination)
            : throw new DraftEditException(path, $"An answer given once per order has no place in {known.Phrase}.");
    }

    private static System.Collections.Immutable.ImmutableSortedDictionary<string, Conditions.Condition> GoesToWhen(
        Section section,
        string destination,
        string path,
        Conditions.Condition? condition
    ) =>
        DestinationIndex.Find(destination) is null ? throw new DraftEditException(path, $"There is no destination “{destination}”.")
        : condition is null ? section.GoesToWhen.Remove(destination)
        : section.GoesToWhen.SetItem(destination, condition);

    private static DraftEditException Unknown(string kind, string path) => new(path, $"A {kind} has no setting “{path}”.");
}
