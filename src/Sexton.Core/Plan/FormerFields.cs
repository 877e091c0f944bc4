using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Register;
using Sexton.Core.Types;

namespace Sexton.Core.Plan;

/// <summary>What is no longer in a register, and still answered in old orders: read like what is retired, by what it was last.</summary>
public static class FormerFields
{
    /// <summary>A register with what it no longer has, retired: nothing of it is asked, costs or counts; where it goes stays as it was.</summary>
    /// <param name="register">The register.</param>
    /// <param name="fields">Fields of versions before, each as it was last.</param>
    /// <param name="sections">Sections of versions before.</param>
    public static RegisterContent WithFormer(this RegisterContent register, IEnumerable<Field> fields, IEnumerable<Section> sections)
    {
        var steps = register.AllSteps().Select(static s => s.Key).ToHashSet(StringComparer.Ordinal);
        string At(string step, Level level) => steps.Contains(step) ? step : Step.FirstOf(level).Key;
        bool IsGone(string key) => register.Find(key) is null && register.FindSection(key) is null;
        return register with
        {
            Fields = [.. register.Fields, .. fields.Where(f => IsGone(f.Key)).Select(f => Plain(f) with { Step = At(f.Step, f.Level) })],
            Sections =
            [
                .. register.Sections,
                .. sections
                    .Where(s => IsGone(s.Key))
                    .Select(s => s with { Retired = true, When = null, AskedOf = ProductScope.Every, Step = At(s.Step, s.Level) }),
            ],
        };
    }

    private static Field Plain(Field field) =>
        field with
        {
            Retired = true,
            Section = null,
            AskedOf = ProductScope.Every,
            When = null,
            Required = false,
            RequiredWhen = null,
            RefusedWhen = null,
            Default = null,
            Prices = [],
            Uses = [],
            Code = null,
            Settings = WithoutConditions(field.Settings),
        };

    private static ImmutableSortedDictionary<string, JsonElement> WithoutConditions(ImmutableSortedDictionary<string, JsonElement> settings)
    {
        if (!settings.TryGetValue(OneOf.Choices, out var choices) || JsonNode.Parse(choices.GetRawText()) is not JsonArray list)
        {
            return settings;
        }

        foreach (var choice in list.OfType<JsonObject>())
        {
            choice.Remove("when");
        }

        return settings.SetItem(OneOf.Choices, JsonSerializer.SerializeToElement(list));
    }
}
