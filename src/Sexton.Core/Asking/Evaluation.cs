using System.Collections.Immutable;
using Sexton.Core.Cart;
using Sexton.Core.Catalogue;
using Sexton.Core.Codes;
using Sexton.Core.Components;
using Sexton.Core.Facts;
using Sexton.Core.Files;
using Sexton.Core.Plan;
using Sexton.Core.Pricing;
using Sexton.Core.Register;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Asking;

/// <summary>
/// The one answer to "what about this cart?": what is asked, what is wrong, and what it costs; the same for shop, preview and attempt.
/// One instance can be run again and again: its buffers are kept, and only canonical values that differ from what was entered are new.
/// Not safe for use by two threads at once.
/// </summary>
public sealed class Evaluation : IProblemSink
{
    private readonly List<AskedField> _asked = [];
    private readonly List<AnswerProblem> _problems = [];
    private readonly List<PlannedField> _fields = [];
    private readonly Asker _asker = new();
    private readonly CartPricing _pricing = new();
    private readonly CartUsage _uses = new();
    private readonly CartCodes _codes = new();
    private RegistryFindings _registry = RegistryFindings.None;
    private bool[] _askedAnywhere = [];

    /// <summary>The cart, and at every place what was entered and what came of it.</summary>
    public CartFacts Facts { get; } = new();

    /// <summary>The register that was asked.</summary>
    public RegisterPlan Plan => Facts.Plan;

    /// <summary>The cart.</summary>
    public CartContent Cart => Facts.Cart;

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

    /// <summary>Whether the buyer owes the tax, and not the shop (reverse charge): none is in the rows then, and none comes on top.</summary>
    public bool BuyerOwesTax { get; private set; }

    /// <summary>What there is to pay, in minor units: the sum of the rows, and of the taxes where they come on top.</summary>
    public long TotalMinor => _pricing.TotalMinor;

    /// <summary>What it uses up, place by place.</summary>
    public IReadOnlyList<UsedItem> Uses => _uses.Items;

    /// <summary>How often an answer, or a choice of it, could be taken of what is left, where few are left; null where there is enough.</summary>
    public long? FewLeft(PlannedField field, string? choice) => _uses.FewLeft(field.Uses, choice);

    /// <summary>What it weighs, in grams.</summary>
    public long WeightGrams => _uses.WeightGrams;

    /// <summary>The item code of a line that is sold: that of its goods, with what its answers contribute.</summary>
    public string ItemCodeOf(int line) => _codes[line];

    /// <summary>The currency of all amounts (ISO 4217).</summary>
    public string Currency { get; private set; } = "";

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
    /// <param name="reverseCharge">Whether an organisation abroad, whose tax number was found valid, owes the tax itself.</param>
    public void Run(
        RegisterPlan plan,
        ProductIndex products,
        CartContent cart,
        DateOnly today,
        StockLevels? stock = null,
        RegistryFindings? registry = null,
        KeptFiles? files = null,
        bool reverseCharge = false
    )
    {
        (_registry, Currency, PricesIncludeTax) = (registry ?? RegistryFindings.None, products.Currency, products.Tax.PricesIncludeTax);
        _problems.Clear();
        Facts.Load(plan, products, cart, today);
        CheckLines();
        _asker.Run(Facts, _registry, files ?? KeptFiles.None);
        Collect();
        _uses.Run(Facts, plan.Uses, plan.Weighing, products, stock ?? StockLevels.Uncounted, this);
        BuyerOwesTax = reverseCharge && IsOrganisationAbroad(products.HomeCountry);
        _pricing.Run(Facts, plan.Prices, products, _uses.Items, cart.Coupon, this, BuyerOwesTax);
        _codes.Run(Facts, plan.Coder, products, plan.CodeLimits, this);
    }

    /// <summary>What was entered for what is asked, or stands in for it; null for nothing.</summary>
    internal AnswerValue? RawOf(AskedField asked) => Facts.EnteredAt(asked.Field, asked.Place) ?? asked.Field.Field.Default;

    /// <summary>Reads something while an answer that the rule of its field refused stands there once more, as the rule saw it.</summary>
    /// <param name="field">The field.</param>
    /// <param name="place">Where.</param>
    /// <param name="read">Reads it.</param>
    public void AsJudged(PlannedField field, Place place, Action read)
    {
        if (field.Column < 0 || _asker.JudgedOf(Facts.State(field, place)) is not { } judged)
        {
            read();
            return;
        }

        Facts.State(field, place).Value = judged;
        try
        {
            read();
        }
        finally
        {
            Facts.State(field, place).Value = null;
        }
    }

    /// <summary>The choices that are offered to what is asked.</summary>
    public IEnumerable<Choice> Offered(AskedField asked) =>
        asked.Field.Rule.Choices.Where((_, i) => asked.Field.ChoiceWhen[i]?.Holds(Facts, asked.Place) ?? true);

    /// <inheritdoc/>
    void IProblemSink.Add(Refusal refusal, RuledField? field, Place place) => Add(refusal, field, place);

    /// <summary>The numbers that a registry is to be asked about, and was not yet.</summary>
    public IEnumerable<string> ToLookUp() =>
        !_fields.Exists(static f => f.Rule.LooksUp)
            ? []
            : _asked
                .Where(a => a.Field.Rule.LooksUp && a.Value is not null && FindingOf(a) == RegistryFinding.NotAsked)
                .Select(static a => a.Value!.Text!)
                .Distinct(StringComparer.Ordinal);

    /// <summary>What a registry said of an answer; <see cref="RegistryFinding.NotAsked"/> where it has no say.</summary>
    public RegistryFinding FindingOf(AskedField asked) =>
        asked.Field.Rule.LooksUp && asked.Value?.Text is { } number ? _registry.Of(number) : RegistryFinding.NotAsked;

    // One that the registry could not be asked about may be anybody's.
    private bool IsOrganisationAbroad(string home) =>
        _asked.Exists(a =>
            a.Place == Place.Order
            && a.Field.Type.Key == TaxNumber.TypeKey
            && FindingOf(a) == RegistryFinding.Valid
            && TaxNumber.CountryOf(a.Value!.Text!) != home
        )
        && CountryOfInvoice() != home;

    // That of the invoice's own address, as soon as one is chosen in it, or else of where the goods go.
    private string CountryOfInvoice() =>
        _asked.Find(static a => a.Place == Place.Order && a.Field.Key == BuiltInFields.InvoiceAddress) is { Field: not null } asked
        && RawOf(asked)?.Parts?.GetValueOrDefault(PostalAddress.Land) is { Length: > 0 } country
            ? country
            : Facts.Country;

    private void Add(Refusal refusal, RuledField? field, Place place) =>
        _problems.Add(
            new(refusal, field, Facts.LineIdAt(place), Facts.UnitIdAt(place), (field as PlannedField)?.Field.Step ?? Step.Cart.Key)
        );

    // What is wrong with a line whatever is answered. Too many are told at the quantity, before anything is typed that would be in vain.
    private void CheckLines()
    {
        for (var line = 0; line < Facts.LineCount; line++)
        {
            var quantity = Facts.QuantityOf(line);
            if (!Facts.IsSold(line))
            {
                Add(new Refusal(ShopperMessages.NotSold), null, Place.OfLine(line));
            }
            else if (Facts.MostEach(line) is { } most && quantity > most)
            {
                Add(
                    new Refusal(ShopperMessages.TooManyEach, TextLimits.Number(most), TextLimits.Number(quantity)),
                    null,
                    Place.OfLine(line)
                );
            }
        }

        if (Facts.LineCount == 0)
        {
            Add(new Refusal(ShopperMessages.EmptyCart), null, Place.Order);
        }
    }

    private void Collect()
    {
        _asked.Clear();
        _fields.Clear();
        if (_askedAnywhere.Length < Plan.InOrder.Length)
        {
            _askedAnywhere = new bool[Plan.InOrder.Length];
        }

        Array.Clear(_askedAnywhere);
        foreach (var line in Facts.PlacesOf(Level.Line))
        {
            Collect(Plan.LineFields, line);
            foreach (var unit in Facts.PlacesOf(Level.Unit, line.Line))
            {
                Collect(Plan.UnitFields, unit);
            }
        }

        Collect(Plan.OrderFields, Place.Order);
    }

    private void Collect(ImmutableArray<PlannedField> fields, Place place)
    {
        var (lineId, unitId) = (Facts.LineIdAt(place), Facts.UnitIdAt(place));
        foreach (var field in fields)
        {
            ref var state = ref Facts.State(field, place);
            if (!state.Asked || !field.Asks)
            {
                continue;
            }

            if (!_askedAnywhere[field.Ordinal])
            {
                _askedAnywhere[field.Ordinal] = true;
                _fields.Add(field);
            }

            _asked.Add(new AskedField(field, place, lineId, unitId, state.Value, state.Required));
            if (state.RefusedAt > 0)
            {
                _problems.Add(new AnswerProblem(_asker.RefusalOf(state), field, lineId, unitId, field.Field.Step));
            }
        }
    }
}
