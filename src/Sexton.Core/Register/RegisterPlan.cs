using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using Sexton.Core.Cart;
using Sexton.Core.Catalogue;
using Sexton.Core.Codes;
using Sexton.Core.Pricing;
using Sexton.Core.Register.Types;

namespace Sexton.Core.Register;

/// <summary>
/// A compiled register: immutable, its fields in dependency order, their conditions bound, their choices indexed.
/// Compiled once per version and shared by all requests.
/// </summary>
public sealed class RegisterPlan
{
    private readonly ImmutableDictionary<string, PlannedField> _byKey;
    private readonly ImmutableArray<ImmutableArray<BoundPrice>> _prices;
    private readonly ConditionalWeakTable<Product, ProductMask> _masks = [];
    private readonly ImmutableArray<string> _fileFields;
    private ItemCoder? _coder;

    internal RegisterPlan(
        RegisterContent content,
        ImmutableArray<Step> steps,
        ImmutableArray<PlannedField> inOrder,
        ImmutableArray<PlannedField> displayed
    )
    {
        Content = content;
        Steps = steps;
        InOrder = inOrder;
        Displayed = displayed;
        (OrderFields, LineFields, UnitFields) = (
            OfLevel(displayed, Level.Order),
            OfLevel(displayed, Level.Line),
            OfLevel(displayed, Level.Unit)
        );
        (OrderSlots, LineSlots, UnitSlots) = (Slots(inOrder, Level.Order), Slots(inOrder, Level.Line), Slots(inOrder, Level.Unit));
        _prices = [.. Enum.GetValues<PriceKind>().Select(kind => PricesIn(displayed, kind))];
        CodeFields = [.. LineFields.Where(static f => f.Field.Code is not null)];
        Uses = [.. displayed.SelectMany(static f => f.Uses)];
        _fileFields = [.. inOrder.Where(static f => f.Rule.HoldsFiles).Select(static f => f.Field.Key)];
        for (var i = 0; i < inOrder.Length; i++)
        {
            inOrder[i].Ordinal = i;
        }

        _byKey = inOrder.ToImmutableDictionary(static f => f.Field.Key, StringComparer.Ordinal);
    }

    /// <summary>The register that was compiled.</summary>
    public RegisterContent Content { get; }

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

    /// <summary>Those of each level, sorted by key: their places are their slots.</summary>
    internal ImmutableArray<PlannedField> OrderSlots { get; }

    /// <inheritdoc cref="OrderSlots"/>
    internal ImmutableArray<PlannedField> LineSlots { get; }

    /// <inheritdoc cref="OrderSlots"/>
    internal ImmutableArray<PlannedField> UnitSlots { get; }

    /// <summary>The field or section with a key, or null.</summary>
    public PlannedField? Find(string key) => _byKey.GetValueOrDefault(key);

    /// <summary>The place of a step on the way, from 0; -1 when there is no such step.</summary>
    public int PlaceOf(string step)
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

    /// <summary>The prices of a kind: of fields of the order, then of lines, then of units, as displayed.</summary>
    public ImmutableArray<BoundPrice> PricesOf(PriceKind kind) => _prices[(int)kind];

    /// <summary>The fields whose answers contribute to item codes, as displayed.</summary>
    public ImmutableArray<PlannedField> CodeFields { get; }

    /// <summary>What answers use up, field by field as displayed.</summary>
    internal ImmutableArray<BoundUse> Uses { get; }

    /// <summary>Puts item codes together.</summary>
    public ItemCoder Coder => _coder ??= new ItemCoder(this);

    /// <summary>Whether anything is asked of each one of a product.</summary>
    public bool AsksPerUnit(Product product) => MaskOf(product).AnyUnit;

    /// <summary>
    /// The line with each one of its quantity, where each is asked; without them where it is not. A stand-in cart or a form may send fewer; nobody may send more.
    /// </summary>
    /// <param name="products">What the shop sells.</param>
    /// <param name="line">The line.</param>
    /// <exception cref="CartException">There are more units than the quantity.</exception>
    public CartLine WithUnits(ProductIndex products, CartLine line) =>
        products.Find(line.ProductCode, line.VariantCode) is { } goods && AsksPerUnit(goods.Product)
            ? line.WithUnits()
            : line with
            {
                Units = [],
                AsksEach = false,
            };

    /// <inheritdoc cref="WithUnits(ProductIndex, CartLine)"/>
    public CartContent WithUnits(ProductIndex products, CartContent cart) =>
        cart with
        {
            Lines = [.. cart.Lines.Select(line => WithUnits(products, line))],
        };

    /// <summary>
    /// The answers of a line as lines are compared: each brought to its canonical value, what was left untouched as what is proposed, what was emptied as not given.
    /// </summary>
    /// <param name="line">The line.</param>
    /// <param name="today">Today, in the time zone of the shop.</param>
    public AnswerSet CanonicalOf(CartLine line, DateOnly today)
    {
        var occasion = new AnyOccasion(today);
        var known = LineSlots.Select(field =>
            KeyValuePair.Create(field.Field.Key, Canonical(field, line.Answers.Find(field.Field.Key) ?? field.Field.Default, occasion))
        );
        var others = line
            .Answers.Where(a => Find(a.Key)?.Level != Level.Line)
            .Select(static a => KeyValuePair.Create(a.Key, (AnswerValue?)a.Value));
        return AnswerSet.Of(
            known.Concat(others).Where(static a => a.Value is { IsBlank: false }).Select(static a => KeyValuePair.Create(a.Key, a.Value!))
        );
    }

    private static AnswerValue? Canonical(PlannedField field, AnswerValue? raw, IOccasion occasion) =>
        raw is null || raw.IsBlank || field.Rule.HoldsFiles ? raw
        : field.Rule.Read(raw, occasion) is { Refusal: null } reading ? reading.Value
        : raw;

    /// <summary>The keys of answers of a cart that no field or section of this register has.</summary>
    public IEnumerable<string> UnknownKeys(CartContent cart) =>
        cart
            .Lines.SelectMany(static l => l.Units.Select(static u => u.Answers).Prepend(l.Answers))
            .Prepend(cart.Answers)
            .SelectMany(static a => a.Select(static p => p.Key))
            .Where(key => Content.Find(key) is null && Content.FindSection(key) is null)
            .Distinct(StringComparer.Ordinal);

    /// <summary>The ids of the files that a cart refers to, in answers asked or not.</summary>
    public IReadOnlyList<string> FilesIn(CartContent cart) =>
        _fileFields.IsEmpty ? [] : [.. cart.Lines.SelectMany(FilesIn).Concat(FilesIn(cart.Answers)).Distinct(StringComparer.Ordinal)];

    /// <summary>The same of one line and its units.</summary>
    public IEnumerable<string> FilesIn(CartLine line) => line.Units.Select(static u => u.Answers).Prepend(line.Answers).SelectMany(FilesIn);

    private IEnumerable<string> FilesIn(AnswerSet answers) => _fileFields.SelectMany(f => answers.Find(f)?.Picks ?? []);

    /// <summary>
    /// Compiles a register. A field that cannot be compiled is left out of the plan and named in the problems;
    /// a register with such a problem cannot be published.
    /// </summary>
    public static Compilation Compile(RegisterContent content, FieldTypes types) => new PlanCompiler(content, types).Compile();

    /// <summary>Which fields a product is asked by their scope: worked out once for each product.</summary>
    internal ProductMask MaskOf(Product product) => _masks.TryGetValue(product, out var mask) ? mask : MakeMask(product);

    // Apart, so that finding one makes no closure.
    private ProductMask MakeMask(Product product) => _masks.GetValue(product, p => new ProductMask(this, p));

    private static ImmutableArray<BoundPrice> PricesIn(ImmutableArray<PlannedField> displayed, PriceKind kind) =>
        [.. displayed.OrderBy(static f => f.Level).SelectMany(static f => f.Prices).Where(p => p.Price.Kind == kind)];

    private static ImmutableArray<PlannedField> OfLevel(ImmutableArray<PlannedField> fields, Level level) =>
        [.. fields.Where(f => f.Level == level)];

    private static ImmutableArray<PlannedField> Slots(ImmutableArray<PlannedField> fields, Level level)
    {
        ImmutableArray<PlannedField> slots = [.. OfLevel(fields, level).OrderBy(static f => f.Field.Key, StringComparer.Ordinal)];
        for (var i = 0; i < slots.Length; i++)
        {
            slots[i].Slot = i;
        }

        return slots;
    }
}

/// <summary>Which fields of a plan a product is asked by their scope, by slot.</summary>
internal sealed class ProductMask(RegisterPlan plan, Product product)
{
    public bool[] Order { get; } = Of(plan.OrderSlots, product);

    public bool[] Line { get; } = Of(plan.LineSlots, product);

    public bool[] Unit { get; } = Of(plan.UnitSlots, product);

    public bool AnyUnit => Unit.AsSpan().Contains(true);

    private static bool[] Of(ImmutableArray<PlannedField> slots, Product product) => [.. slots.Select(f => f.IsAskedOf(product))];
}

/// <summary>What compiling gave.</summary>
/// <param name="Plan">The plan of all fields without a problem.</param>
/// <param name="Problems">What cannot be compiled; empty when the register can be published.</param>
public sealed record Compilation(RegisterPlan Plan, ImmutableArray<CompileProblem> Problems);

/// <summary>Why a field, section or step cannot be compiled.</summary>
/// <param name="Field">The key of the field, section or step.</param>
/// <param name="Setting">The path of the setting that is wrong, such as "settings.longest".</param>
/// <param name="Sentence">What is wrong and how to mend it.</param>
public sealed record CompileProblem(string Field, string Setting, string Sentence);
