using System.Collections.Immutable;
using Sexton.Core.Catalogue;
using Sexton.Core.Codes;
using Sexton.Core.Conditions;
using Sexton.Core.Pricing;
using Sexton.Core.Register.Types;
using Sexton.Core.Working;

namespace Sexton.Core.Register;

/// <summary>
/// A field bound to its type, rule and conditions; or a section, whose opening question is a field like any other. Made by
/// <see cref="RegisterPlan.Compile"/> and immutable from then on.
/// </summary>
public sealed class PlannedField
{
    private bool? _weighs;

    internal PlannedField(Field field, FieldType type, AnswerRule rule, int stepPlace, Section? section = null)
    {
        (Field, Type, Rule, StepPlace, Section) = (field, type, rule, stepPlace, section);
        ChoiceWhen = [.. rule.Choices.Select(static _ => (BoundCondition?)null)];
    }

    /// <summary>The field as defined; for a section one made of its opening question.</summary>
    public Field Field { get; }

    /// <summary>Its kind of answer.</summary>
    public FieldType Type { get; }

    /// <summary>Reads its answers.</summary>
    public AnswerRule Rule { get; }

    /// <summary>The section that it is, or null for a field.</summary>
    public Section? Section { get; }

    /// <summary>How often it is asked.</summary>
    public Level Level => Field.Level;

    /// <summary>The place of its step on the way, from 0.</summary>
    public int StepPlace { get; }

    /// <summary>The section that it stands in, or null.</summary>
    public PlannedField? Within { get; internal set; }

    /// <summary>The condition under which it is asked, besides its scope and section; null for always.</summary>
    public BoundCondition? When { get; internal set; }

    /// <summary>The condition under which it must be answered, where not always; null for none.</summary>
    public BoundCondition? RequiredWhen { get; internal set; }

    /// <summary>The conditions of its choices, in their order; null for always.</summary>
    public ImmutableArray<BoundCondition?> ChoiceWhen { get; internal set; }

    /// <summary>Whether all its choices are offered wherever it is asked.</summary>
    public bool OffersAll => ChoiceWhen.All(static when => when is null);

    /// <summary>Whether a product asks it, by its scope and that of its section.</summary>
    public bool IsAskedOf(Product product) => Field.AskedOf.Includes(product) && Within?.Field.AskedOf.Includes(product) != false;

    /// <summary>What works its answer out; null for what is entered.</summary>
    internal BoundTerm? Working { get; set; }

    /// <summary>What its answers cost.</summary>
    public ImmutableArray<BoundPrice> Prices { get; internal set; } = [];

    /// <summary>What its answers use up.</summary>
    internal ImmutableArray<BoundUse> Uses { get; set; } = [];

    /// <summary>Whether any of its choices weighs something.</summary>
    internal bool Weighs => _weighs ??= Rule.Choices.Any(static c => c.WeightGrams > 0);

    /// <summary>The conditions of its routes, by destination; a route without one has none.</summary>
    public ImmutableDictionary<string, BoundCondition> RouteWhen { get; internal set; } = ImmutableDictionary<string, BoundCondition>.Empty;

    /// <summary>Whether the shopper is asked for anything: a section without an opening question only opens.</summary>
    internal bool Asks => Section is null || !Section.Opening.IsEmpty;

    /// <summary>Switched off or retired: never asked, and kept for the routes of answers that were given before. A section is so too while nothing stands in it that is asked.</summary>
    public bool Dormant => Field.SwitchedOff || Field.Retired;

    /// <summary>Its place in the plan's order.</summary>
    internal int Ordinal { get; set; }

    /// <summary>Its place among the fields of its level, sorted by key.</summary>
    internal int Slot { get; set; } = -1;
}
