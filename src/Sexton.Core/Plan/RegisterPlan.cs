using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using Sexton.Core.Catalogue;
using Sexton.Core.Codes;
using Sexton.Core.Components;
using Sexton.Core.Facts;
using Sexton.Core.Pricing;
using Sexton.Core.Register;
using Sexton.Core.Routing;
using Sexton.Core.Sentences;
using Sexton.Core.Types;

namespace Sexton.Core.Plan;

/// <summary>
/// A compiled register: immutable, its fields in dependency order, their conditions bound, their choices indexed.
/// Compiled once per version and shared by all requests.
/// </summary>
public sealed class RegisterPlan
{
    private readonly ImmutableDictionary<string, PlannedField> _byKey;
    private readonly ConditionalWeakTable<Product, ProductMask> _masks = [];
    private ItemCoder? _coder;

    internal RegisterPlan(
        RegisterContent content,
        Wording wording,
        DestinationIndex destinations,
        ImmutableArray<Step> steps,
        ImmutableArray<PlannedField> inOrder,
        ImmutableArray<PlannedField> displayed
    )
    {
        Content = content;
        Wording = wording;
        Destinations = destinations;
        DeliveredTo = [.. destinations.All.Where(static d => d.Kind.IsDelivered).Select(static d => d.Key)];
        CodeLimits = [.. destinations.All.Select(static d => d.Capacity.ItemCodes).OfType<ItemCodeLimits>()];
        Steps = steps;
        InOrder = inOrder;
        Displayed = displayed;
        (OrderFields, LineFields, UnitFields) = (
            OfLevel(displayed, Level.Order),
            OfLevel(displayed, Level.Line),
            OfLevel(displayed, Level.Unit)
        );
        (OrderColumns, LineColumns, UnitColumns) = (
            Columns(inOrder, Level.Order),
            Columns(inOrder, Level.Line),
            Columns(inOrder, Level.Unit)
        );
        Prices = new PriceIndex(displayed);
        Weighing = [.. displayed.Where(static f => f.Rule.Choices.Any(static c => c.WeightGrams > 0))];
        CodeFields = [.. LineFields.Where(static f => f.Field.Code is not null)];
        Uses = [.. displayed.SelectMany(static f => f.Uses)];
        FileFields = [.. inOrder.Where(static f => f.Rule.HoldsFiles).Select(static f => f.Field.Key)];
        for (var i = 0; i < inOrder.Length; i++)
        {
            inOrder[i].Ordinal = i;
        }

        _byKey = inOrder.ToImmutableDictionary(static f => f.Field.Key, StringComparer.Ordinal);
    }

    /// <summary>The register that was compiled.</summary>
    public RegisterContent Content { get; }

    /// <summary>What the shop says.</summary>
    public Wording Wording { get; }

    /// <summary>Where answers go.</summary>
    public DestinationIndex Destinations { get; }

    /// <summary>The keys of the destinations that are sent to, each with a lane for every order.</summary>
    public ImmutableArray<string> DeliveredTo { get; }

    /// <summary>What item codes the destinations take.</summary>
    internal ImmutableArray<ItemCodeLimits> CodeLimits { get; }

    /// <summary>All steps on the way, the manager's own among them.</summary>
    public ImmutableArray<Step> Steps { get; }

    /// <summary>Fields and sections such that each comes after what its conditions read.</summary>
    public ImmutableArray<PlannedField> InOrder { get; }

    /// <summary>Fields and sections that are asked, by step and then by their place in the register, a section before its fields.</summary>
    public ImmutableArray<PlannedField> Displayed { get; }

    /// <summary>Those asked once per order, as displayed.</summary>
    public ImmutableArray<PlannedField> OrderFields { get; }

    /// <summary>Those asked once per line, as displayed.</summary>
    public ImmutableArray<PlannedField> LineFields { get; }

    /// <summary>Those asked once per unit, as displayed.</summary>
    public ImmutableArray<PlannedField> UnitFields { get; }

    /// <summary>Those of each level, sorted by key: their places are their columns.</summary>
    internal ImmutableArray<PlannedField> OrderColumns { get; }

    /// <inheritdoc cref="OrderColumns"/>
    internal ImmutableArray<PlannedField> LineColumns { get; }

    /// <inheritdoc cref="OrderColumns"/>
    internal ImmutableArray<PlannedField> UnitColumns { get; }

    /// <summary>The field or section with a key, or null.</summary>
    public PlannedField? Find(string key) => _byKey.GetValueOrDefault(key);

    /// <summary>The place of a step on the way, from 0; -1 when there is no such step.</summary>
    public int IndexOfStep(string step)
    {
        for (var i = 0; i < Steps.Length; i++)
        {
            if (Steps[i].Key == step)
            {
                return i;
            }
        }

        return -1;
    }

    /// <summary>Those of a level, as displayed.</summary>
    public ImmutableArray<PlannedField> FieldsOf(Level level) =>
        level switch
        {
            Level.Order => OrderFields,
            Level.Line => LineFields,
            _ => UnitFields,
        };

    /// <summary>What answers cost.</summary>
    public PriceIndex Prices { get; }

    /// <summary>The fields whose answers contribute to item codes, as displayed.</summary>
    public ImmutableArray<PlannedField> CodeFields { get; }

    /// <summary>The keys of the fields whose answers are files.</summary>
    internal ImmutableArray<string> FileFields { get; }

    /// <summary>What answers use up, field by field as displayed.</summary>
    internal ImmutableArray<BoundUsage> Uses { get; }

    /// <summary>The fields with choices that weigh something.</summary>
    internal ImmutableArray<RuledField> Weighing { get; }

    /// <summary>Puts item codes together.</summary>
    public ItemCoder Coder => _coder ??= new ItemCoder(Content.Codes, [.. CodeFields.Select(static f => ((RuledField)f, f.Field.Code!))]);

    /// <summary>Whether anything is asked of each one of a product.</summary>
    public bool AsksPerUnit(Product product) => MaskOf(product).AnyUnit;

    /// <summary>The greatest quantity that a product and what is asked of each one of it take; null where neither says.</summary>
    public int? MostEach(Product product) => MaskOf(product).MostEach;

    /// <summary>
    /// Compiles a register. A field that cannot be compiled is left out of the plan and named in the problems;
    /// a register with such a problem cannot be published.
    /// </summary>
    /// <param name="content">The register.</param>
    /// <param name="types">The kinds of answer.</param>
    /// <param name="kinds">The kinds of destination.</param>
    /// <example><code>RegisterPlan.Compile(register, FieldTypes.Standard, kinds).Plan</code></example>
    public static Compilation Compile(RegisterContent content, FieldTypes types, DestinationKinds kinds) =>
        new PlanCompiler(content, types, kinds).Compile();

    /// <summary>Which fields a product is asked by their scope: worked out once for each product.</summary>
    internal ProductMask MaskOf(Product product) => _masks.TryGetValue(product, out var mask) ? mask : MakeMask(product);

    // Apart, so that finding one makes no closure.
    private ProductMask MakeMask(Product product) => _masks.GetValue(product, p => new ProductMask(this, p));

    private static ImmutableArray<PlannedField> OfLevel(ImmutableArray<PlannedField> fields, Level level) =>
        [.. fields.Where(f => f.Level == level)];

    private static ImmutableArray<PlannedField> Columns(ImmutableArray<PlannedField> fields, Level level)
    {
        ImmutableArray<PlannedField> columns = [.. OfLevel(fields, level).OrderBy(static f => f.Field.Key, StringComparer.Ordinal)];
        for (var i = 0; i < columns.Length; i++)
        {
            columns[i].Column = i;
        }

        return columns;
    }
}

/// <summary>Which fields of a plan a product is asked by their scope, by column.</summary>
internal sealed class ProductMask(RegisterPlan plan, Product product)
{
    public bool[] Order { get; } = Of(plan.OrderColumns, product);

    public bool[] Line { get; } = Of(plan.LineColumns, product);

    public bool[] Unit { get; } = Of(plan.UnitColumns, product);

    public bool AnyUnit => Unit.AsSpan().Contains(true);

    /// <summary>The greatest quantity that the product and what is asked of each one of it take; null where neither says.</summary>
    public int? MostEach { get; } =
        plan.UnitColumns.Where(f => f.IsAskedOf(product)).Select(static f => f.Field.MostEach).Append(product.MostEach).Min();

    private static bool[] Of(ImmutableArray<PlannedField> columns, Product product) => [.. columns.Select(f => f.IsAskedOf(product))];
}

/// <summary>What compiling gave.</summary>
/// <param name="Plan">The plan of all fields without a problem.</param>
/// <param name="Problems">What cannot be compiled; empty when the register can be published.</param>
public sealed record Compilation(RegisterPlan Plan, ImmutableArray<CompileProblem> Problems);

/// <summary>Why a field, section, step or destination cannot be compiled.</summary>
/// <param name="Field">Its key.</param>
/// <param name="Setting">The path of the setting that is wrong, such as "settings.longest".</param>
/// <param name="Sentence">What is wrong and how to mend it.</param>
public sealed record CompileProblem(string Field, string Setting, string Sentence);
