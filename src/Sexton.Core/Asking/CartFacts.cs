using System.Globalization;
using System.Runtime.InteropServices;
using Sexton.Core.Cart;
using Sexton.Core.Catalogue;
using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Asking;

/// <summary>The sheet of facts of a cart: its lines and their goods, and at every place what was entered and what came of it. Its buffers are kept.</summary>
public sealed class CartFacts : IFacts
{
    private readonly AnswerSheet _sheet = new();
    private Line[] _lines = [];

    internal CartFacts() { }

    /// <summary>The register that is asked.</summary>
    public RegisterPlan Plan { get; private set; } = null!;

    /// <summary>The cart.</summary>
    public CartContent Cart { get; private set; } = CartContent.Empty;

    /// <summary>Today, in the time zone of the shop.</summary>
    public DateOnly Today { get; private set; }

    /// <inheritdoc/>
    public string Language => Cart.Language;

    /// <inheritdoc/>
    public string Group { get; private set; } = "";

    /// <summary>The country of the shopper: of the delivery address, else as far as the cart knows (ISO 3166-1 alpha-2).</summary>
    public string Country { get; private set; } = "";

    /// <inheritdoc/>
    public string Home { get; private set; } = "";

    /// <inheritdoc/>
    public string Day { get; private set; } = "";

    /// <inheritdoc/>
    public decimal CartTotal { get; private set; }

    /// <inheritdoc/>
    public decimal CartCount { get; private set; }

    /// <inheritdoc/>
    public int LineCount { get; private set; }

    /// <inheritdoc/>
    public bool IsSold(int line) => _lines[line].Mask is not null;

    /// <inheritdoc/>
    public int UnitsOf(int line) => _lines[line].Units;

    /// <inheritdoc/>
    public int QuantityOf(int line) => _lines[line].Content.Quantity;

    /// <inheritdoc/>
    public Goods Goods(int line) => _lines[line].Goods;

    /// <summary>A line as it is in the cart.</summary>
    public CartLine LineAt(int line) => _lines[line].Content;

    /// <inheritdoc/>
    public string? LineIdAt(Place place) => place.Line < 0 ? null : LineAt(place.Line).Id;

    /// <inheritdoc/>
    public string? UnitIdAt(Place place) => place.Unit < 0 ? null : LineAt(place.Line).Units[place.Unit].Id;

    /// <inheritdoc/>
    public AnswerValue? ValueOf(AnswerSource source, Place place) => source.Column < 0 ? null : State(source, place).Value;

    /// <inheritdoc/>
    public bool Awaits(AnswerSource source, Place place) =>
        source.Column >= 0 && State(source, place) is { Asked: true, Required: true, Value: null };

    /// <summary>Whether a field is asked at a place.</summary>
    public bool IsAsked(PlannedField field, Place place) => field.Column >= 0 && State(field, place).Asked;

    /// <summary>What was entered at a place for a field that is asked there or not; null for nothing.</summary>
    internal AnswerValue? EnteredAt(PlannedField field, Place place) => field.Column < 0 ? null : State(field, place).Raw;

    /// <summary>Whether a product in a line asks a field by its scope.</summary>
    internal bool IsInScope(PlannedField field, int line) =>
        _lines[line].Mask is { } mask
        && (
            field.Level switch
            {
                Level.Order => mask.Order,
                Level.Line => mask.Line,
                _ => mask.Unit,
            }
        )[field.Column];

    /// <summary>The greatest quantity of a line that is sold and of which each one is asked; null where none is.</summary>
    public int? MostEach(int line) => _lines[line].Mask is { AnyUnit: true } mask ? CartContent.MostEachOf(mask.MostEach) : null;

    /// <summary>What stands at a place; of a wider level what stands around it.</summary>
    internal ref AnswerState State(AnswerSource source, Place place)
    {
        switch (source.Level)
        {
            case Level.Order:
                return ref _sheet.Order[source.Column];
            case Level.Line:
                return ref _sheet.Lines[(place.Line * Plan.LineColumns.Length) + source.Column];
            default:
                return ref _sheet.Units[((_lines[place.Line].FirstUnit + place.Unit) * Plan.UnitColumns.Length) + source.Column];
        }
    }

    /// <summary>The answers of a cart as if all of them were asked and right, for asking what would hold then.</summary>
    internal static CartFacts AsGiven(RegisterPlan plan, ProductIndex products, CartContent cart, DateOnly today)
    {
        var facts = new CartFacts();
        facts.Load(plan, products, cart, today);
        facts._sheet.TakeAsGiven();
        return facts;
    }

    /// <summary>Begins with another cart: nothing is asked yet.</summary>
    internal void Load(RegisterPlan plan, ProductIndex products, CartContent cart, DateOnly today)
    {
        (Plan, Cart, LineCount) = (plan, cart, cart.Lines.Length);
        Group = products.GroupOf(cart.Group);
        Home = products.HomeCountry;
        Country = cart.Country.Length == 2 ? cart.Country : products.HomeCountry;
        if (Today != today || Day.Length == 0)
        {
            (Today, Day) = (today, today.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture));
        }

        if (_lines.Length < LineCount)
        {
            _lines = new Line[LineCount * 2];
        }

        var units = LoadLines(products);
        _sheet.Load(plan, cart.Answers, LineCount, units);
        for (var i = 0; i < LineCount; i++)
        {
            if (_lines[i].Mask is not null)
            {
                _sheet.LayOut(plan, cart.Lines[i], i, _lines[i].FirstUnit, _lines[i].Units);
            }
        }
    }

    /// <summary>
    /// Takes the country from the delivery address, which says it better than the cart, as soon as one is chosen in it and only while it is asked. What reads
    /// the country comes after it.
    /// </summary>
    internal void SettleCountry(PlannedField address)
    {
        if (
            _sheet.Order[address.Column] is { Asked: true, Raw.Parts: { } parts }
            && parts.TryGetValue(PostalAddress.Land, out var country)
            && PostalAddress.Countries.ContainsKey(country)
        )
        {
            Country = country;
        }
    }

    // The number of units of all lines.
    private int LoadLines(ProductIndex products)
    {
        (CartTotal, CartCount) = (0, 0);
        var units = 0;
        for (var i = 0; i < LineCount; i++)
        {
            var line = Cart.Lines[i];
            if (products.Find(line.ProductCode, line.VariantCode) is { } goods)
            {
                var mask = Plan.MaskOf(goods.Product);
                var many = mask.AnyUnit ? line.Units.Length : 0;
                _lines[i] = new Line(line, goods, mask, many, units);
                units += many;
                CartTotal += (decimal)goods.PriceMinor * line.Quantity;
                CartCount += line.Quantity;
            }
            else
            {
                _lines[i] = new Line(line, default, null, 0, units);
            }
        }

        CartTotal /= MoneyText.UnitOf(products.Currency);
        return units;
    }

    [StructLayout(LayoutKind.Auto)]
    private readonly record struct Line(CartLine Content, Goods Goods, ProductMask? Mask, int Units, int FirstUnit);
}
