using System.Collections.Immutable;
using System.Globalization;
using System.Runtime.InteropServices;
using Sexton.Core.Cart;
using Sexton.Core.Catalogue;
using Sexton.Core.Codes;
using Sexton.Core.Conditions;
using Sexton.Core.Files;
using Sexton.Core.Orders;
using Sexton.Core.Pricing;
using Sexton.Core.Register;
using Sexton.Core.Register.Types;
using Sexton.Core.Working;

namespace Sexton.Core.Asking;

/// <summary>
/// The one answer to "what about this cart?": what is asked, what is wrong, and what it costs; the same for shop, preview and attempt.
/// One instance can be run again and again: its buffers are kept, and only canonical values that differ from what was entered are new.
/// Not safe for use by two threads at once.
/// </summary>
public sealed partial class Evaluation : IOccasion
{
    private readonly List<AskedField> _asked = [];
    private readonly List<AnswerProblem> _problems = [];
    private readonly CartPricing _pricing = new();
    private readonly CartUses _uses = new();
    private readonly CartCodes _codes = new();
    private readonly List<Refusal> _refusals = [];
    private readonly AnswerSheet _sheet = new();
    private readonly List<PlannedField> _fields = [];
    private bool[] _askedAnywhere = [];
    private Line[] _lines = [];
    private RegistryFindings _registry = RegistryFindings.None;
    private KeptFiles _files = KeptFiles.None;
    private PlannedField? _reading;
    private Place _readingAt;

    /// <summary>The register that was asked.</summary>
    public RegisterPlan Plan { get; private set; } = null!;

    /// <summary>The cart.</summary>
    public CartContent Cart { get; private set; } = CartContent.Empty;

    /// <summary>Today, in the time zone of the shop.</summary>
    public DateOnly Today { get; private set; }

    /// <summary>The fields asked now: line by line with its units, then the order's, each by step and place in the register.</summary>
    public IReadOnlyList<AskedField> Asked => _asked;

    /// <summary>The fields asked anywhere, each once, in the order in which they are asked first.</summary>
    public IReadOnlyList<PlannedField> Fields => _fields;

    /// <summary>Everything that keeps the cart from becoming an order, in the order of what is asked.</summary>
    public IReadOnlyList<AnswerProblem> Problems => _problems;

    /// <summary>What it costs, row by row.</summary>
    public IReadOnlyList<PriceRow> Rows => _pricing.Rows;

    /// <summary>The tax by rate, the lowest rate first.</summary>
    public IReadOnlyList<TaxSum> Taxes => _pricing.Taxes;

    /// <summary>Whether the rows include tax; else it comes on top of them.</summary>
    public bool PricesIncludeTax { get; private set; }

    /// <summary>What there is to pay, in minor units: the sum of the rows, and of the taxes where they come on top.</summary>
    public long TotalMinor => _pricing.TotalMinor;

    /// <summary>What it uses up, place by place.</summary>
    public IReadOnlyList<UsedItem> Uses => _uses.Items;

    /// <summary>How often an answer, or a choice of it, could be taken of what is left, where few are left; null where there is enough.</summary>
    public long? FewLeft(PlannedField field, string? choice) => _uses.FewLeft(field, choice);

    /// <summary>What it weighs, in grams.</summary>
    public long WeightGrams => _uses.WeightGrams;

    /// <summary>The item code of a line that is sold: that of its goods, with what its answers contribute.</summary>
    public string ItemCodeOf(int line) => _codes[line];

    /// <summary>The currency of all amounts (ISO 4217).</summary>
    public string Currency { get; private set; } = "";

    /// <summary>The key of the shopper's group.</summary>
    public string Group { get; private set; } = "";

    /// <summary>The country of the shopper: of the delivery address, else as far as the cart knows (ISO 3166-1 alpha-2).</summary>
    public string Country { get; private set; } = "";

    /// <summary>The number of lines in the cart, sold or not.</summary>
    public int LineCount { get; private set; }

    internal decimal CartTotal { get; private set; }

    internal decimal CartCount { get; private set; }

    internal string TodayText { get; private set; } = "";

    /// <summary>Evaluates a cart in a new instance.</summary>
    /// <param name="plan">The compiled register.</param>
    /// <param name="products">What the shop sells.</param>
    /// <param name="cart">The cart.</param>
    /// <param name="today">Today, in the time zone of the shop.</param>
    /// <param name="stock">What is left of what is counted; null where nothing is.</param>
    public static Evaluation Of(RegisterPlan plan, ProductIndex products, CartContent cart, DateOnly today, StockLevels? stock = null)
    {
        var evaluation = new Evaluation();
        evaluation.Run(plan, products, cart, today, stock);
        return evaluation;
    }

    /// <inheritdoc cref="Of"/>
    /// <param name="plan">The compiled register.</param>
    /// <param name="products">What the shop sells.</param>
    /// <param name="cart">The cart.</param>
    /// <param name="today">Today, in the time zone of the shop.</param>
    /// <param name="stock">What is left of what is counted; null where nothing is.</param>
    /// <param name="registry">What registries said of numbers; null where none was asked.</param>
    /// <param name="files">The files that were uploaded for the cart; null for none.</param>
    public void Run(
        RegisterPlan plan,
        ProductIndex products,
        CartContent cart,
        DateOnly today,
        StockLevels? stock = null,
        RegistryFindings? registry = null,
        KeptFiles? files = null
    )
    {
        (_registry, _files) = (registry ?? RegistryFindings.None, files ?? KeptFiles.None);
        Load(plan, products, cart, today);
        foreach (var field in plan.InOrder)
        {
            Ask(field);
        }

        Collect();
        _pricing.Begin(this, products);
        _uses.Run(this, products, stock ?? StockLevels.Uncounted);
        _pricing.Run();
        _codes.Run(this, products);
    }

    /// <summary>Whether a line is of something that is sold.</summary>
    public bool IsSold(int line) => _lines[line].Mask is not null;

    /// <summary>How many units a line has that each are asked.</summary>
    public int UnitsOf(int line) => _lines[line].Units;

    /// <summary>The line at a place.</summary>
    public CartLine LineAt(int line) => _lines[line].Content;

    /// <summary>What a line that is sold is of.</summary>
    public Goods Goods(int line) => _lines[line].Goods;

    /// <summary>The canonical answer of a field at a place, or at the line or order around it; null when unasked, left empty or refused.</summary>
    public AnswerValue? ValueOf(PlannedField field, Place place) => field.Slot < 0 ? null : State(field, place).Value;

    /// <summary>What was entered for what is asked, or stands in for it; null for nothing.</summary>
    internal AnswerValue? RawOf(AskedField asked) => State(asked.Field, asked.Place).Raw ?? asked.Field.Field.Default;

    /// <summary>Whether a field is asked at a place.</summary>
    public bool IsAsked(PlannedField field, Place place) => field.Slot >= 0 && State(field, place).Asked;

    /// <summary>The choices that are offered to what is asked.</summary>
    public IEnumerable<Choice> Offered(AskedField asked) =>
        asked.Field.Rule.Choices.Where((_, i) => asked.Field.ChoiceWhen[i]?.Holds(this, asked.Place) ?? true);

    /// <summary>The id of the line at a place, or null for the order.</summary>
    internal string? LineIdAt(Place place) => place.Line < 0 ? null : LineAt(place.Line).Id;

    /// <summary>The id of the unit at a place, or null.</summary>
    internal string? UnitIdAt(Place place) => place.Unit < 0 ? null : LineAt(place.Line).Units[place.Unit].Id;

    /// <summary>Charges a component that an answer, or a choice of it, uses up.</summary>
    internal void Charge(Goods component, long quantity, Place place, PlannedField field, string? choice) =>
        _pricing.Charge(component, quantity, place, field, choice);

    /// <summary>How many pieces of an answer, or of a choice of it, are included in the price at a place.</summary>
    internal int IncludedOf(PlannedField field, string? choice, Place place) => _pricing.IncludedOf(field, choice, place);

    /// <summary>Adds a problem of the answer of a field, or of the cart where there is none.</summary>
    internal void AddProblem(Refusal refusal, PlannedField? field, Place place) =>
        _problems.Add(new AnswerProblem(refusal, field, LineIdAt(place), UnitIdAt(place), field?.Field.Step ?? Step.Cart.Key));

    /// <summary>The numbers that a registry is to be asked about, and was not yet.</summary>
    public IEnumerable<string> ToLookUp() =>
        !_fields.Exists(static f => f.Rule.LooksUp)
            ? []
            : _asked
                .Where(a => a.Field.Rule.LooksUp && a.Value is not null && FindingOf(a) == RegistryFinding.NotAsked)
                .Select(static a => a.Value!.Text!)
                .Distinct(StringComparer.Ordinal);

    /// <inheritdoc/>
    string IOccasion.Language => Cart.Language;

    /// <summary>What was entered at a place for a field that is asked there or not; null for nothing.</summary>
    internal AnswerValue? EnteredAt(PlannedField field, Place place) => field.Slot < 0 ? null : State(field, place).Raw;

    /// <inheritdoc/>
    RegistryFinding IOccasion.Registry(string number) => _registry.Of(number);

    /// <inheritdoc/>
    KeptFile? IOccasion.File(string id) => _files.Find(id);

    /// <summary>What a registry said of an answer; <see cref="RegistryFinding.NotAsked"/> where it has no say.</summary>
    public RegistryFinding FindingOf(AskedField asked) =>
        asked.Field.Rule.LooksUp && asked.Value?.Text is { } number ? _registry.Of(number) : RegistryFinding.NotAsked;

    /// <inheritdoc/>
    bool IOccasion.Offers(int choice) => _reading!.ChoiceWhen[choice]?.Holds(this, _readingAt) ?? true;

    /// <summary>
    /// The answers and facts of an order as they were, for the conditions of routes: nothing is asked or checked again, and what the plan
    /// does not know is left out.
    /// </summary>
    public static Evaluation OfOrder(RegisterPlan plan, OrderContent order) => AsGiven(plan, order.Products(), order.AsCart(), order.Day);

    /// <summary>The answers of a cart as if all of them were asked and right, for asking what would hold then.</summary>
    internal static Evaluation AsGiven(RegisterPlan plan, ProductIndex products, CartContent cart, DateOnly today)
    {
        var evaluation = new Evaluation();
        evaluation.Load(plan, products, cart, today, ordered: true);
        evaluation._sheet.TakeAsGiven();
        return evaluation;
    }

    private void Load(RegisterPlan plan, ProductIndex products, CartContent cart, DateOnly today, bool ordered = false)
    {
        (Plan, Cart, Currency, LineCount) = (plan, cart, products.Currency, cart.Lines.Length);
        PricesIncludeTax = products.Tax.PricesIncludeTax;
        Group = products.GroupOf(cart.Group);
        Country = cart.Country.Length == 2 ? cart.Country : products.HomeCountry;
        if (Today != today || TodayText.Length == 0)
        {
            (Today, TodayText) = (today, today.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture));
        }

        _asked.Clear();
        _fields.Clear();
        _problems.Clear();
        _refusals.Clear();
        if (_lines.Length < LineCount)
        {
            _lines = new Line[LineCount * 2];
        }

        (CartTotal, CartCount) = (0, 0);
        var units = 0;
        for (var i = 0; i < LineCount; i++)
        {
            var line = cart.Lines[i];
            if (products.Find(line.ProductCode, line.VariantCode) is { } goods)
            {
                var mask = plan.MaskOf(goods.Product);

                // An order keeps its units whatever is asked of its products since.
                var many = mask.AnyUnit || ordered ? line.Units.Length : 0;
                _lines[i] = new Line(line, goods, mask, many, units);
                units += many;
                TellTooMany(line, mask.AnyUnit && !ordered);
                CartTotal += (decimal)goods.PriceMinor * line.Quantity;
                CartCount += line.Quantity;
            }
            else
            {
                _lines[i] = new Line(line, default, null, 0, units);
                _problems.Add(new(new Refusal(Sentences.NotSold), null, line.Id, null, Step.Cart.Key));
            }
        }

        if (cart.Lines.IsEmpty)
        {
            _problems.Add(new(new Refusal(Sentences.EmptyCart), null, null, null, Step.Cart.Key));
        }

        CartTotal /= MoneyText.UnitOf(Currency);
        _sheet.Load(plan, cart.Answers, LineCount, units);
        for (var i = 0; i < LineCount; i++)
        {
            if (_lines[i].Mask is not null)
            {
                _sheet.LayOut(plan, cart.Lines[i], i, _lines[i].FirstUnit, _lines[i].Units);
            }
        }
    }

    // Told at the quantity, before anything is typed that would be in vain.
    private void TellTooMany(CartLine line, bool asksEach)
    {
        if (asksEach && line.Quantity > CartContent.MostUnits)
        {
            _problems.Add(
                new(
                    new Refusal(Sentences.TooManyEach, TextLimits.Number(CartContent.MostUnits), TextLimits.Number(line.Quantity)),
                    null,
                    line.Id,
                    null,
                    Step.Cart.Key
                )
            );
        }
    }

    private ref AnswerState State(PlannedField field, Place place)
    {
        switch (field.Level)
        {
            case Level.Order:
                return ref _sheet.Order[field.Slot];
            case Level.Line:
                return ref _sheet.Lines[(place.Line * Plan.LineSlots.Length) + field.Slot];
            default:
                return ref _sheet.Units[((_lines[place.Line].FirstUnit + place.Unit) * Plan.UnitSlots.Length) + field.Slot];
        }
    }

    private void Ask(PlannedField field)
    {
        if (field.Dormant || !field.Field.AskedOf.IncludesGroup(Group) || field.Within?.Dormant == true)
        {
            return;
        }

        if (field.Level == Level.Order)
        {
            if (IsAskedOfAnyLine(field))
            {
                AskAt(field, Place.Order);
                SettleCountry(field);
            }

            return;
        }

        for (var line = 0; line < LineCount; line++)
        {
            if (_lines[line].Mask is not { } mask || !(field.Level == Level.Line ? mask.Line : mask.Unit)[field.Slot])
            {
                continue;
            }

            if (field.Level == Level.Line)
            {
                AskAt(field, new Place(line, -1));
                continue;
            }

            for (var unit = 0; unit < _lines[line].Units; unit++)
            {
                AskAt(field, new Place(line, unit));
            }
        }
    }

    // The address says it better than the cart, as soon as a country is chosen in it and only while it is asked. What reads the country comes after it.
    private void SettleCountry(PlannedField field)
    {
        if (
            field.Field.Key == BuiltInFields.DeliveryAddress
            && _sheet.Order[field.Slot] is { Asked: true, Raw.Parts: { } parts }
            && parts.TryGetValue(PostalAddress.Land, out var country)
            && PostalAddress.Countries.ContainsKey(country)
        )
        {
            Country = country;
        }
    }

    // An empty cart asks the order's questions too, so that a preview shows them.
    private bool IsAskedOfAnyLine(PlannedField field)
    {
        if (field.Field.AskedOf.All && field.Within?.Field.AskedOf.All != false)
        {
            return true;
        }

        for (var line = 0; line < LineCount; line++)
        {
            if (_lines[line].Mask?.Order[field.Slot] == true)
            {
                return true;
            }
        }

        return false;
    }

    private void AskAt(PlannedField field, Place place)
    {
        if ((field.Within is { } section && !State(section, place).Open) || field.When?.Holds(this, place) == false)
        {
            return;
        }

        ref var state = ref State(field, place);
        state.Asked = true;
        if (!field.Asks)
        {
            state.Open = true;
            return;
        }

        if (field.Type.AsksNothing)
        {
            return;
        }

        if (field.Working is { } working)
        {
            WorkOut(field, working, place, ref state);
            return;
        }

        var plain = field.Field;
        state.Required = plain.Required || field.RequiredWhen?.Holds(this, place) == true;
        var raw = state.Raw ?? plain.Default;
        if (raw is not null && !raw.IsBlank)
        {
            (_reading, _readingAt) = (field, place);
            var reading = field.Rule.Read(raw, this);
            state.Value = reading.Value;
            state.Open = field.Section is not null && reading.Value?.Truth == true;
            if (reading.Refusal is { } refusal)
            {
                Refuse(ref state, refusal);
                return;
            }

            if (plain.DefaultMustChange && reading.Value is not null && reading.Value.Equals(field.Rule.Read(plain.Default!, this).Value))
            {
                state.Value = null;
                Refuse(ref state, new Refusal(RefusalCodes.LeftAsProposed));
                return;
            }
        }

        if (state.Required && state.Value is null)
        {
            Refuse(ref state, field.Rule.Missing);
        }
    }

    // What was sent for it counts for nothing.
    private void WorkOut(PlannedField field, BoundTerm working, Place place, ref AnswerState state)
    {
        var given = working.IsText
            ? working.Text(this, place) is { } text
                ? AnswerValue.Of(text)
                : null
            : working.Number(this, place) is { } number
                ? field.Rule.Rounded(number)
                : null;
        if (given is null)
        {
            return;
        }

        var reading = field.Rule.Read(given, this);
        state.Value = reading.Value;
        if (reading.Refusal is { } refusal)
        {
            Refuse(ref state, refusal);
        }
    }

    private void Refuse(ref AnswerState state, Refusal refusal)
    {
        _refusals.Add(refusal);
        state.RefusedAt = _refusals.Count;
    }

    private void Collect()
    {
        if (_askedAnywhere.Length < Plan.InOrder.Length)
        {
            _askedAnywhere = new bool[Plan.InOrder.Length];
        }

        Array.Clear(_askedAnywhere);
        for (var line = 0; line < LineCount; line++)
        {
            if (_lines[line].Mask is null)
            {
                continue;
            }

            var content = _lines[line].Content;
            foreach (var field in Plan.LineFields)
            {
                Collect(field, new Place(line, -1), content.Id, null);
            }

            for (var unit = 0; unit < _lines[line].Units; unit++)
            {
                foreach (var field in Plan.UnitFields)
                {
                    Collect(field, new Place(line, unit), content.Id, content.Units[unit].Id);
                }
            }
        }

        foreach (var field in Plan.OrderFields)
        {
            Collect(field, Place.Order, null, null);
        }
    }

    private void Collect(PlannedField field, Place place, string? lineId, string? unitId)
    {
        ref var state = ref State(field, place);
        if (!state.Asked || !field.Asks)
        {
            return;
        }

        if (!_askedAnywhere[field.Ordinal])
        {
            _askedAnywhere[field.Ordinal] = true;
            _fields.Add(field);
        }

        _asked.Add(new AskedField(field, place, lineId, unitId, state.Value, state.Required));
        if (state.RefusedAt > 0)
        {
            _problems.Add(new AnswerProblem(_refusals[state.RefusedAt - 1], field, lineId, unitId, field.Field.Step));
        }
    }

    [StructLayout(LayoutKind.Auto)]
    private readonly record struct Line(CartLine Content, Goods Goods, ProductMask? Mask, int Units, int FirstUnit);
}
