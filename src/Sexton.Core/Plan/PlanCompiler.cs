using System.Collections.Immutable;
using Sexton.Core.Codes;
using Sexton.Core.Components;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Formulas;
using Sexton.Core.Pricing;
using Sexton.Core.Register;
using Sexton.Core.Routing;
using Sexton.Core.Sentences;
using Sexton.Core.Types;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Plan;

/// <summary>Compiles one register: rules first, then conditions, then the order in which they depend on each other.</summary>
internal sealed class PlanCompiler(RegisterContent content, FieldTypes types, DestinationKinds kinds)
{
    private readonly List<CompileProblem> _problems = [];
    private readonly Dictionary<string, PlannedField> _planned = new(StringComparer.Ordinal);
    private readonly Dictionary<PlannedField, HashSet<AnswerSource>> _reads = [];
    private readonly Wording _wording = new(content.Wording);
    private readonly ImmutableArray<Step> _steps = content.AllSteps();
    private readonly Dictionary<string, int> _stepIndexes = [];

    public Compilation Compile()
    {
        foreach (var (step, i) in _steps.Select(static (s, i) => (s, i)))
        {
            _stepIndexes.TryAdd(step.Key, i);
        }

        CheckKeys();
        CheckSteps();
        CheckDestinations();
        _problems.AddRange(new PlacementRules(content).Problems());
        PlanSections();
        PlanFields();
        var binder = new ConditionBinder(Find, _stepIndexes, _planned.GetValueOrDefault(BuiltInFields.DeliveryAddress));
        foreach (var field in _planned.Values.ToList())
        {
            Bind(field, binder);
        }

        DropUnbound();
        var destinations = new DestinationIndex(content.Destinations, kinds, _wording);
        foreach (var destination in destinations.All)
        {
            foreach (var (setting, sentence) in new DestinationBinder(destination, binder, _planned.GetValueOrDefault).Bind())
            {
                Problem(destination.Key, setting, sentence);
            }
        }

        var inOrder = Sort();
        return new Compilation(new RegisterPlan(content, _wording, destinations, _steps, inOrder, Display(inOrder)), [.. _problems]);
    }

    private void CheckKeys()
    {
        var seen = new HashSet<string>(StringComparer.Ordinal);
        foreach (
            var key in content
                .Steps.Select(static s => s.Key)
                .Concat(content.Sections.Select(static s => s.Key))
                .Concat(content.Fields.Select(static f => f.Key))
                .Concat(content.Destinations.Select(static d => d.Key))
        )
        {
            if (!FieldKey.IsValid(key))
            {
                Problem(
                    key,
                    "key",
                    $"“{key}” cannot be a key. Use a to z, digits and _, beginning with a letter, at most {FieldKey.Longest}."
                );
            }
            else if (!seen.Add(key) || Step.Standard.Any(s => s.Key == key))
            {
                Problem(key, "key", $"The key “{key}” is used twice. Give one of the two another key.");
            }
        }
    }

    private void CheckSteps()
    {
        foreach (var step in content.Steps)
        {
            if (step.Name.IsEmpty)
            {
                Problem(step.Key, "name", "It has no name. Say what the shopper reads above it.");
            }

            if (!CustomStep.Predecessors.Contains(step.After))
            {
                Problem(step.Key, "after", "A step of your own stands after the cart, the contact or the delivery.");
            }
        }
    }

    private void CheckDestinations()
    {
        foreach (var destination in content.Destinations)
        {
            if (kinds.Find(destination.Kind) is not { } kind)
            {
                Problem(destination.Key, "kind", $"There is no kind of destination “{destination.Kind}”.");
                continue;
            }

            foreach (var problem in SettingsObject.Validate(kind.Name, kind.Settings, destination.Settings))
            {
                Problem(destination.Key, "settings." + problem.Name, problem.Sentence);
            }

            if (
                content.Destinations.Any(d =>
                    d.Key != destination.Key && string.Equals(d.Name, destination.Name, StringComparison.OrdinalIgnoreCase)
                )
            )
            {
                Problem(destination.Key, "name", $"Two destinations are called “{destination.Name}”. Give one of them another name.");
            }
        }

        foreach (var kind in kinds.All.Where(k => k.IsBuiltIn && content.Destinations.Count(d => d.Kind == k.Key) > 1))
        {
            Problem(kind.Key, "kind", $"There is {kind.Phrase} once. Take the other one out.");
        }
    }

    private void PlanSections()
    {
        foreach (var section in content.Sections.Where(s => !HasProblem(s.Key)))
        {
            if (section.Heading.IsEmpty)
            {
                Problem(section.Key, "heading", "It has no heading. Say what stands above its fields.");
            }
            else if (StepIndexOf(section.Key, section.Step, section.Level) is { } stepIndex)
            {
                var type = types.Find(YesOrNo.TypeKey)!;
                var opening = new Field
                {
                    Key = section.Key,
                    Type = type.Key,
                    Level = section.Level,
                    Step = section.Step,
                    Label = section.Opening.IsEmpty ? section.Heading : section.Opening,
                    AskedOf = section.AskedOf,
                    When = section.When,
                    GoesTo = section.GoesTo,
                    GoesToWhen = section.GoesToWhen,

                    // Where nothing stands in it that is asked, there is nothing to open.
                    Retired =
                        section.Retired
                        || !content.Fields.Any(f => f.Section == section.Key && f is { Retired: false, SwitchedOff: false }),
                };
                _planned[section.Key] = new PlannedField(
                    opening,
                    type,
                    type.Bind(new SettingReader(type, opening.Settings, _wording)),
                    stepIndex,
                    section
                );
            }
        }
    }

    private void PlanFields()
    {
        foreach (var field in content.Fields.Where(f => !HasProblem(f.Key)))
        {
            var before = _problems.Count;
            var section = field.Section is null ? null : _planned.GetValueOrDefault(field.Section);
            if (field.Section is not null && content.FindSection(field.Section) is not { } known)
            {
                Problem(field.Key, "section", $"There is no section “{field.Section}”. Choose another, or none.");
            }
            else if (section is not null && section.Level != field.Level)
            {
                Problem(
                    field.Key,
                    "section",
                    $"“{section.Section!.Heading}” is asked per {Word(section.Level)}, and this field per {Word(field.Level)}. They cannot stand together."
                );
            }

            if (field.Label.IsEmpty)
            {
                Problem(field.Key, "label", "It has no label. Say what the shopper is asked.");
            }

            var stepIndex = StepIndexOf(field.Key, section?.Field.Step ?? field.Step, field.Level);
            var type = types.Find(field.Type);
            if (type is null)
            {
                Problem(field.Key, "type", $"There is no kind of answer “{field.Type}”.");
            }

            foreach (var problem in type?.Validate(field.Settings) ?? [])
            {
                Problem(field.Key, "settings." + problem.Name, problem.Sentence);
            }

            if (_problems.Count == before && (field.Section is null || section is not null))
            {
                var rule = type!.Bind(new SettingReader(type, field.Settings, _wording));
                CheckRule(field, rule);
                _planned[field.Key] = new PlannedField(
                    section is null ? field : field with { Step = section.Field.Step },
                    type,
                    rule,
                    stepIndex!.Value
                )
                {
                    Within = section,
                };
            }
        }
    }

    private void CheckRule(Field field, AnswerRule rule)
    {
        if (rule.Lacks is { } lacks)
        {
            Problem(field.Key, "settings." + lacks.Name, lacks.Sentence);
        }

        // A day that is good today may be refused tomorrow, and whether a choice is offered depends on the cart: only what is always
        // refused is a problem of the draft.
        if (
            field.Default is { } proposed
            && rule.Fact != FactKind.Day
            && rule.Read(proposed, new StandaloneContext(DateOnly.MinValue)).Refusal is { } refusal
        )
        {
            Problem(
                field.Key,
                "default",
                "The default would be refused: " + ShopperMessages.For(refusal, field.Label, _wording, LanguageMap.Fallback)
            );
        }
    }

    private int? StepIndexOf(string key, string step, Level level)
    {
        if (!_stepIndexes.TryGetValue(step, out var stepIndex))
        {
            Problem(key, "step", $"There is no step “{step}”.");
            return null;
        }

        if (level == Level.Order || step != Step.Payment.Key)
        {
            return stepIndex;
        }

        Problem(key, "step", "At payment only what belongs to the whole order is asked. Ask it at an earlier step.");
        return null;
    }

    // Null for a field that is there and left out for a problem of its own; what is not there at all is an error of whoever names it.
    private PlannedField? Find(string key)
    {
        if (content.Find(key) is null && (content.FindSection(key) is not { } section || section.Opening.IsEmpty))
        {
            throw new ConditionException($"There is no field “{key}”. Choose another.");
        }

        return _planned.GetValueOrDefault(key);
    }

    private void Bind(PlannedField field, ConditionBinder binder)
    {
        var reads = _reads[field] = [];
        if (field.Within is { } section)
        {
            reads.Add(section);
        }

        var plain = field.Field;
        field.When = Try(plain.When, "when", field.StepIndex, reads);
        field.RequiredWhen = plain.Required ? null : Try(plain.RequiredWhen, "required_when", field.StepIndex, reads);

        // An answer may be refused for what it is itself, and waits for all else that is read.
        var judging = new HashSet<AnswerSource>();
        field.RefusedWhen = Try(plain.RefusedWhen, "refused_when", field.StepIndex, judging);
        reads.UnionWith(judging.Where(read => read != field));
        field.ChoiceWhen = [.. field.Rule.Choices.Select(c => Try(c.When, "settings." + OneOf.Choices, field.StepIndex, reads))];

        if (!field.Rule.Formula.IsEmpty)
        {
            try
            {
                field.Formula = new FormulaBinder(binder, field.Level, field.StepIndex, reads).Bind(field.Rule.Formula);
                if (field.Formula.IsText != (field.Rule.Fact == FactKind.Text))
                {
                    Problem(
                        plain.Key,
                        "settings.working",
                        field.Formula.IsText
                            ? "It comes to a text. Say that it gives a text."
                            : "It comes to a number. Say that it gives a number."
                    );
                }
            }
            catch (ConditionException e)
            {
                Problem(plain.Key, "settings.working", e.Message);
            }
        }

        foreach (var problem in PriceRules.Problems(field, plain.Prices, plain.IncludedPicks))
        {
            Problem(plain.Key, "prices", problem);
        }

        // What an answer costs is told where it is asked, and so is known there; nothing is asked because of a price.
        field.Prices =
        [
            .. plain.Prices.Select(p => new BoundPrice(field, p, Try(p.When, "prices", field.StepIndex, new HashSet<AnswerSource>()))),
        ];

        foreach (var (setting, problem) in CodeProblems.Of(field, plain.Code, plain.Uses))
        {
            Problem(plain.Key, setting, problem);
        }

        field.Uses =
        [
            .. plain.Uses.Select(u => new BoundUsage(field, u, Try(u.When, "uses", field.StepIndex, new HashSet<AnswerSource>()))),
        ];

        // A route is decided when the order is there, so it may read anything, and orders nothing.
        field.RouteWhen = plain
            .GoesToWhen.Select(r =>
                (
                    r.Key,
                    Bound: plain.Retired
                        ? TryFormer(r.Value)
                        : Try(r.Value, "goes_to_when." + r.Key, int.MaxValue, new HashSet<AnswerSource>())
                )
            )
            .Where(static r => r.Bound is not null)
            .ToImmutableDictionary(static r => r.Key, static r => r.Bound!, StringComparer.Ordinal);

        // What is retired is not mended any more: a route that asks for what is gone does not hold.
        BoundCondition TryFormer(Condition condition)
        {
            try
            {
                return binder.Bind(condition, field.Level, int.MaxValue, new HashSet<AnswerSource>());
            }
            catch (ConditionException)
            {
                return new BoundGroup(GroupKind.Any, []);
            }
        }

        BoundCondition? Try(Condition? condition, string setting, int step, ISet<AnswerSource> reads)
        {
            try
            {
                return condition is null ? null : binder.Bind(condition, field.Level, step, reads);
            }
            catch (ConditionException e)
            {
                Problem(plain.Key, setting, e.Message);
                return null;
            }
        }
    }

    // A field whose condition cannot be bound is left out, and with a section all that stands in it.
    private void DropUnbound()
    {
        foreach (
            var field in _planned
                .Values.Where(f => HasProblem(f.Field.Key) || (f.Within is { } section && HasProblem(section.Field.Key)))
                .ToList()
        )
        {
            _planned.Remove(field.Field.Key);
        }
    }

    private ImmutableArray<PlannedField> Sort()
    {
        var sorted = ImmutableArray.CreateBuilder<PlannedField>(_planned.Count);
        var state = new Dictionary<PlannedField, bool>();
        var path = new List<PlannedField>();
        foreach (var field in _planned.Values)
        {
            Visit(field);
        }

        return sorted.ToImmutable();

        // True when it could be placed; what waits for itself is named once and left out, and so is what waits for it.
        bool Visit(PlannedField field)
        {
            if (state.TryGetValue(field, out var placed))
            {
                return placed;
            }

            if (path.IndexOf(field) is >= 0 and var from)
            {
                NameCircle(path[from..]);
                return false;
            }

            if (!_planned.ContainsKey(field.Field.Key))
            {
                return true;
            }

            path.Add(field);
            var good = true;
            foreach (var read in _reads[field])
            {
                good &= Visit((PlannedField)read);
            }

            path.RemoveAt(path.Count - 1);
            state[field] = good;
            if (good)
            {
                sorted.Add(field);
            }

            return good;
        }
    }

    private void NameCircle(List<PlannedField> circle)
    {
        var names = circle.Append(circle[0]).Select(static f => $"“{f.Field.NameForStaff}”");
        var sentence = $"{string.Join(" waits for ", names)}. Take one of these conditions away.";
        foreach (var field in circle)
        {
            Problem(field.Field.Key, "when", sentence);
        }
    }

    private ImmutableArray<PlannedField> Display(ImmutableArray<PlannedField> inOrder)
    {
        // A section stands where the first of its fields stands, and one without fields at the end.
        var rank = content
            .Fields.Select(static (f, i) => (f.Key, i))
            .DistinctBy(static f => f.Key)
            .ToDictionary(static f => f.Key, static f => f.i, StringComparer.Ordinal);
        var first = content
            .Fields.Where(static f => f.Section is not null)
            .GroupBy(static f => f.Section!, StringComparer.Ordinal)
            .ToDictionary(static g => g.Key, g => rank[g.First().Key], StringComparer.Ordinal);
        return
        [
            .. inOrder
                .Where(static f => !f.Dormant)
                .OrderBy(static f => f.StepIndex)
                .ThenBy(f =>
                    first.GetValueOrDefault(f.Section?.Key ?? f.Field.Section ?? "", f.Section is null ? rank[f.Field.Key] : int.MaxValue)
                )
                .ThenBy(f => f.Section is null ? rank[f.Field.Key] : -1),
        ];
    }

    private bool HasProblem(string key) => _problems.Exists(p => p.Field == key);

    private void Problem(string key, string setting, string sentence) => _problems.Add(new(key, setting, sentence));

    private static string Word(Level level) => level.ToString().ToLowerInvariant();
}
