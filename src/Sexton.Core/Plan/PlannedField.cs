using System.Collections.Immutable;
using Sexton.Core.Catalogue;
using Sexton.Core.Conditions;
using Sexton.Core.Formulas;
using Sexton.Core.Pricing;
using Sexton.Core.Register;
using Sexton.Core.Types;

namespace Sexton.Core.Plan;

/// <summary>
/// A field bound to its type, rule and conditions; or a section, whose opening question is a field like any other. Made by
/// <see cref="RegisterPlan.Compile"/> and immutable from then on.
/// </summary>
public sealed class PlannedField : PricedField
{
    internal PlannedField(Field field, FieldType type, AnswerRule rule, int stepIndex, Section? section = null)
        : base(field.Key, field.Label, field.NameForStaff, field.Level, stepIndex, type, rule)
    {
        (Field, Section) = (field, section);
        ChoiceWhen = [.. rule.Choices.Select(static _ => (BoundCondition?)null)];
    }

    /// <summary>The field as defined; for a section one made of its opening question.</summary>
    public Field Field { get; }

    /// <summary>The section that it is, or null for a field.</summary>
    public Section? Section { get; }

    /// <summary>The section that it stands in, or null.</summary>
    public PlannedField? Within { get; internal set; }

    /// <summary>The condition under which it is asked, besides its scope and section; null for always.</summary>
    public BoundCondition? When { get; internal set; }

    /// <summary>The condition under which it must be answered, where not always; null for none.</summary>
    public BoundCondition? RequiredWhen { get; internal set; }

    /// <summary>The condition under which an answer is refused that is right by itself; null for none.</summary>
    public BoundCondition? RefusedWhen { get; internal set; }

    /// <summary>The conditions of its choices, in their order; null for always.</summary>
    public ImmutableArray<BoundCondition?> ChoiceWhen
    {
        get;
        internal set => (field, OffersAll) = (value, value.All(static when => when is null));
    }

    /// <summary>Whether all its choices are offered wherever it is asked.</summary>
    public bool OffersAll { get; private set; }

    /// <inheritdoc/>
    public override bool IsAskedOf(Product product) => Field.AskedOf.Includes(product) && Within?.Field.AskedOf.Includes(product) != false;

    /// <inheritdoc/>
    public override int IncludedPicks => Field.IncludedPicks;

    /// <summary>What works its answer out; null for what is entered.</summary>
    internal BoundTerm? Formula { get; set; }

    /// <summary>The conditions of its routes, by destination; a route without one has none.</summary>
    public ImmutableDictionary<string, BoundCondition> RouteWhen { get; internal set; } = ImmutableDictionary<string, BoundCondition>.Empty;

    /// <summary>Whether the shopper is asked for anything: a section without an opening question only opens.</summary>
    internal bool Asks => Section is null || !Section.Opening.IsEmpty;

    /// <summary>Switched off or retired: never asked, and kept for the routes of answers that were given before. A section is so too while nothing stands in it that is asked.</summary>
    public bool Dormant => Field.SwitchedOff || Field.Retired;

    /// <summary>Its place in the plan's order.</summary>
    public int Ordinal { get; internal set; }
}
