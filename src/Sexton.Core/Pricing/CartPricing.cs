using System.Runtime.InteropServices;
using Sexton.Core.Catalogue;
using Sexton.Core.Components;
using Sexton.Core.Facts;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Pricing;

/// <summary>
/// Prices a cart that was asked and checked. Line by line: the goods, amounts per unit, percentages of the goods, amounts once per line, and
/// a floor at nothing; then what is charged once per order, first what adds and then what takes off, the same floor, the coupon; then tax, once per rate. At no
/// rate more is taken off than stands there, so that no tax and no total is ever below nothing. Its buffers are kept.
/// </summary>
internal sealed class CartPricing
{
    /// <summary>The greatest sum of one row, in minor units, either way: what is more is a mistake, and sums of rows stay far from overflowing.</summary>
    public const long MostMinor = 1_000_000_000_000;

    private readonly List<PriceRow> _rows = [];
    private readonly TaxCalculator _taxes = new();
    private readonly RateShares _rates = new();
    private readonly List<PriceRow> _takingOff = [];
    private readonly List<Charged> _charged = [];
    private IFacts _facts = null!;
    private PriceIndex _prices = null!;
    private IProblemSink _problems = null!;
    private ProductIndex _products = null!;
    private TaxRules _tax = TaxRules.None;
    private decimal _currencyUnit;

    public IReadOnlyList<PriceRow> Rows => _rows;

    /// <summary>The tax by rate, the lowest first; a rate of 0 among them.</summary>
    public IReadOnlyList<TaxSum> Taxes => _taxes.Sums;

    /// <summary>The total with tax.</summary>
    public long TotalMinor { get; private set; }

    /// <summary>Prices a cart.</summary>
    /// <param name="facts">The cart, asked and checked.</param>
    /// <param name="prices">What answers cost.</param>
    /// <param name="products">What the shop sells.</param>
    /// <param name="used">What it uses up.</param>
    /// <param name="coupon">The code of a coupon; "" for none.</param>
    /// <param name="problems">Takes what cannot be charged.</param>
    /// <param name="buyerOwesTax">Whether the buyer owes the tax, and not the shop (reverse charge).</param>
    public void Run(
        IFacts facts,
        PriceIndex prices,
        ProductIndex products,
        IReadOnlyList<UsedItem> used,
        string coupon,
        IProblemSink problems,
        bool buyerOwesTax
    )
    {
        (_facts, _prices, _products, _problems) = (facts, prices, products, problems);
        (_tax, _currencyUnit) = (products.Tax, MoneyText.UnitOf(products.Currency));
        _rows.Clear();
        ChargeComponents(used);
        var goods = 0L;
        foreach (var line in facts.PlacesOf(Level.Line))
        {
            goods += PriceLine(line.Line);
        }

        PriceOrder(goods);
        if (coupon.Length > 0)
        {
            TakeOff(products.FindCoupon(coupon), coupon);
        }

        TotalMinor = _taxes.Calculate(_rows, _tax);
        if (buyerOwesTax)
        {
            TotalMinor = _taxes.LeaveToBuyer(_rows, _tax);
        }
    }

    // The component of what is included is free with it.
    private void ChargeComponents(IReadOnlyList<UsedItem> used)
    {
        _charged.Clear();
        for (var i = 0; i < used.Count; i++)
        {
            var item = used[i];
            if (item is { Usage: { Usage.TakesPrice: true } use, Goods: { } component })
            {
                var free =
                    item.TimesFree == 0
                        ? 0
                        : (long)IncludedOf((PricedField)use.Field, use.Usage.Choice, item.Place) * use.Usage.Quantity * item.TimesFree;
                if (item.Quantity > free)
                {
                    _charged.Add(
                        new(component, (int)Math.Min(item.Quantity - free, int.MaxValue), item.Place, use.Field, use.Usage.Choice)
                    );
                }
            }
        }
    }

    private long PriceLine(int line)
    {
        var (first, goods, quantity, id) = (_rows.Count, _facts.Goods(line), _facts.QuantityOf(line), _facts.LineIdAt(Place.OfLine(line)));
        var unit = PriceOfGoods(line, goods.PriceMinor, out var openBy);
        var tax = goods.Product.Tax ?? _tax.Standard;
        Add(
            new PriceRow
            {
                Kind = PriceRowKind.Goods,
                Place = Place.OfLine(line),
                LineId = id,
                Goods = goods,
                Quantity = quantity,
                UnitMinor = unit,
                SumMinor = unit * quantity,
                Tax = tax,
                OpenBy = openBy,
                FromMinor = openBy is null ? null : LeastOf(openBy, Place.OfLine(line), goods.PriceMinor),
            }
        );
        foreach (var kind in (ReadOnlySpan<PriceKind>)[PriceKind.PerUnit, PriceKind.Percent, PriceKind.OncePerLine])
        {
            foreach (var price in _prices.Of(kind))
            {
                if (kind == PriceKind.OncePerLine)
                {
                    AddOnce(price, _facts.PlacesOf(price.Field.Level, line), id, tax);
                }
                else if (price.Field.Level == Level.Line)
                {
                    AddAt(price, Place.OfLine(line), quantity, unit, tax);
                }
                else if (price.Field.Level == Level.Unit)
                {
                    foreach (var place in _facts.PlacesOf(Level.Unit, line))
                    {
                        AddAt(price, place, 1, unit, tax);
                    }
                }
            }
        }

        AddComponents(line);
        AddFloor(first, line, id, tax);
        _rates.Settle(_rows, first);
        return unit * quantity;
    }

    // What the price of one comes to at least, whatever is answered; null where that cannot be said.
    private long? LeastOf(PricedField field, Place place, long catalogue)
    {
        long? least = null;
        var prices = field.Prices.Where(p => p.Price.Kind == PriceKind.ForTheGoods && p.Holds(_facts, place)).ToList();
        foreach (var price in prices)
        {
            var one = price.Price.By switch
            {
                AnswerMeasure.Answer => TariffAt(price, place).Minor,
                AnswerMeasure.Amount when field.Rule.LeastNumber is > 0 and var number => (long)(number * _currencyUnit),
                _ => (long?)null,
            };
            if (one is null)
            {
                return null;
            }

            least = least is null ? one : Math.Min(least.Value, one.Value);
        }

        // A choice without a price of its own leaves the catalogue's.
        var isOpen = prices.TrueForAll(static p => p.Price.Choice is not null);
        return isOpen && field.Rule.Choices.Any(c => !prices.Exists(p => p.Price.Choice == c.Key))
            ? Math.Min(least ?? catalogue, catalogue)
            : least;
    }

    // At most one answer is the price of its line; where two are, nobody can say which, and the cart waits until one of them is changed.
    private long PriceOfGoods(int line, long catalogue, out PricedField? openBy)
    {
        BoundPrice? found = null;
        openBy = null;
        var unit = catalogue;
        foreach (var price in _prices.Of(PriceKind.ForTheGoods))
        {
            var place = Place.OfLine(line);
            if (Amount(price, place) is not { } amount)
            {
                openBy ??= _facts.Awaits(price.Field, place) && price.Holds(_facts, place) ? price.Field : null;
                continue;
            }

            if (found is not null)
            {
                _problems.Add(new Refusal(ShopperMessages.TwoPrices, found.Field.Label.In(_facts.Language)), price.Field, place);
                continue;
            }

            (found, unit) = (price, amount);
        }

        // As long as the answer is awaited the goods have no price: the catalogue's number would be one that is never charged.
        openBy = found is null ? openBy : null;
        return openBy is null ? unit : 0;
    }

    private void PriceOrder(long goods)
    {
        var first = _rows.Count;
        foreach (var price in _prices.Of(PriceKind.OncePerOrder))
        {
            if (price.Field.Level == Level.Order)
            {
                AddAt(price, Place.Order, 1, 0, _tax.Standard);
            }
            else
            {
                AddOnce(price, _facts.PlacesOf(price.Field.Level), null, _tax.Standard);
            }
        }

        foreach (var price in _prices.Of(PriceKind.Percent))
        {
            if (price.Field.Level == Level.Order)
            {
                AddAt(price, Place.Order, 1, goods, _tax.Standard);
            }
        }

        AddComponents(-1);
        ShareWhatTakesOff(first);
        AddFloor(0, -1, null, _tax.Standard);
        _rates.Settle(_rows, 0);
    }

    // What takes off the whole order falls on the rates of all that stands, as a coupon does. Taken off last, so that the order of fields does not matter.
    private void ShareWhatTakesOff(int first)
    {
        _takingOff.Clear();
        for (var i = _rows.Count - 1; i >= first; i--)
        {
            if (_rows[i].SumMinor < 0)
            {
                _takingOff.Add(_rows[i]);
                _rows.RemoveAt(i);
            }
        }

        for (var i = _takingOff.Count - 1; i >= 0; i--)
        {
            var row = _takingOff[i];
            var standing = Math.Min(-row.SumMinor, Math.Max(0, SumFrom(0)));
            if (standing > 0)
            {
                _rates.Share(_rows, row, standing);
            }

            // What is more than all that stands is lifted again, at the same rate.
            if (-row.SumMinor - standing is > 0 and var over)
            {
                _rows.Add(row with { Quantity = 1, UnitMinor = -over, SumMinor = -over, IsOneOfSeveral = standing > 0 });
            }
        }
    }

    private void AddComponents(int line)
    {
        foreach (var (component, quantity, place, field, choice) in _charged)
        {
            if (place.Line == line)
            {
                Add(
                    new PriceRow
                    {
                        Kind = PriceRowKind.Component,
                        Place = place,
                        LineId = _facts.LineIdAt(place),
                        UnitId = _facts.UnitIdAt(place),
                        Goods = component,
                        Field = field,
                        Choice = choice,
                        Quantity = quantity,
                        UnitMinor = component.PriceMinor,
                        SumMinor = component.PriceMinor * quantity,
                        Tax = component.Product.Tax ?? _tax.Standard,
                    }
                );
            }
        }
    }

    private void AddAt(BoundPrice price, Place place, int quantity, long goods, TaxRate tax)
    {
        if (price.Price.Kind == PriceKind.Percent)
        {
            AddPercent(price, place, goods * quantity, tax);
        }
        else if (Amount(price, place) is { } amount && amount != 0)
        {
            Add(price, place, _facts.LineIdAt(place), quantity, amount, tax);
        }
    }

    private void AddPercent(BoundPrice price, Place place, long goods, TaxRate tax)
    {
        if (!Applies(price, place, out _, out _))
        {
            return;
        }

        var tariff = TariffAt(price, place);
        var sum = Exact.Round((Int128)goods * tariff.Ppm, Exact.Million);
        if (tariff.CeilingMinor is { } ceiling)
        {
            sum = Math.Clamp(sum, -ceiling, ceiling);
        }

        if (sum != 0)
        {
            Add(price, place, _facts.LineIdAt(place), 1, sum, tax);
        }
    }

    // Charged once over several places, so that their order does not matter: the greatest of what adds there, and where nothing adds the smallest of what
    // takes off (decision 18).
    private void AddOnce(BoundPrice price, PlaceWalk places, string? lineId, TaxRate tax)
    {
        long? greatest = null;
        var at = Place.Order;
        foreach (var place in places)
        {
            if (Amount(price, place) is { } amount and not 0 && (greatest is null || amount > greatest))
            {
                (greatest, at) = (amount, place);
            }
        }

        if (greatest is { } sum)
        {
            Add(price, at, lineId, 1, sum, tax);
        }
    }

    private void Add(BoundPrice price, Place place, string? lineId, int quantity, long amount, TaxRate tax) =>
        Add(
            new PriceRow
            {
                Kind = PriceRowKind.Answer,
                Place = place,
                LineId = lineId,
                UnitId = lineId is null ? null : _facts.UnitIdAt(place),
                Field = price.Field,
                Choice = price.Price.Choice,
                Price = price,
                Quantity = quantity,
                UnitMinor = amount,
                SumMinor = amount * quantity,
                Tax = price.Price.Tax ?? tax,
            }
        );

    private void Add(in PriceRow row)
    {
        if (Math.Abs(row.SumMinor) > MostMinor)
        {
            _problems.Add(new Refusal(ShopperMessages.PriceOutOfRange), row.Field, row.Place);
            return;
        }

        _rows.Add(row);
    }

    private void AddFloor(int first, int line, string? lineId, TaxRate tax)
    {
        var sum = SumFrom(first);
        if (sum < 0)
        {
            Add(
                new PriceRow
                {
                    Kind = PriceRowKind.Floor,
                    Place = Place.OfLine(line),
                    LineId = lineId,
                    Quantity = 1,
                    UnitMinor = -sum,
                    SumMinor = -sum,
                    Tax = tax,
                }
            );
        }
    }

    private long SumFrom(int first)
    {
        var sum = 0L;
        for (var i = first; i < _rows.Count; i++)
        {
            sum += _rows[i].SumMinor;
        }

        return sum;
    }

    private bool Applies(BoundPrice price, Place place, out AnswerValue value, out decimal count)
    {
        value = _facts.ValueOf(price.Field, place)!;
        count = value is null ? 0 : price.CountOf(value, _facts);
        return count > 0 && price.Holds(_facts, place);
    }

    private Tariff TariffAt(BoundPrice price, Place place) =>
        price.TariffOf(_facts.Group, place.Line < 0 ? null : _facts.Goods(place.Line).Variant?.Code);

    // What a price comes to at a place, for one; null where it does not apply.
    private long? Amount(BoundPrice price, Place place)
    {
        if (!Applies(price, place, out var value, out var count))
        {
            return null;
        }

        var included =
            price.Price.Included
            + (price.Price.Kind == PriceKind.ForTheGoods ? 0 : IncludedPicksOf(price.Field, price.Price.Choice, place, value));
        if (count <= included)
        {
            return included == 0 ? null : 0;
        }

        var amount = price.AmountOf(TariffAt(price, place), count, included, _currencyUnit);
        if (amount is null)
        {
            _problems.Add(new Refusal(ShopperMessages.PriceOutOfRange), price.Field, place);
        }

        return amount;
    }

    // How many pieces of a choice, or of an answer as a whole, are included at a place: neither they nor their components are charged.
    private int IncludedOf(PricedField field, string? choice, Place place)
    {
        if (_facts.ValueOf(field, place) is not { } value)
        {
            return 0;
        }

        var included = 0;
        foreach (var price in field.Prices)
        {
            if (price.Price.Choice == choice && price.Price.Included > included && price.Holds(_facts, place))
            {
                included = price.Price.Included;
            }
        }

        return included + IncludedPicksOf(field, choice, place, value);
    }

    // The cheapest picks are the included ones; of two that cost the same, the one that stands first in the list.
    private int IncludedPicksOf(PricedField field, string? choice, Place place, AnswerValue value)
    {
        if (choice is null || field.IncludedPicks == 0)
        {
            return 0;
        }

        var own = AmountOfOne(field, choice, place);
        var (before, passed) = (0, false);
        foreach (var other in field.Rule.Choices)
        {
            passed |= other.Key == choice;
            if (other.Key != choice && field.Rule.TimesTaken(value, other.Key) is > 0 and var picked)
            {
                var amount = AmountOfOne(field, other.Key, place);
                before += amount < own || (amount == own && !passed) ? picked : 0;
            }
        }

        return Math.Clamp(field.IncludedPicks - before, 0, field.Rule.TimesTaken(value, choice));
    }

    // What one piece of a choice costs, with its component.
    private long AmountOfOne(PricedField field, string choice, Place place)
    {
        var sum = 0L;
        foreach (var price in field.Prices)
        {
            if (
                price.Price.Choice == choice
                && price.Price.Kind is not (PriceKind.Percent or PriceKind.ForTheGoods)
                && price.Holds(_facts, place)
            )
            {
                sum += price.AmountOf(TariffAt(price, place), 1, 0, _currencyUnit) ?? 0;
            }
        }

        foreach (var use in field.Uses)
        {
            if (
                use.Usage.TakesPrice
                && use.Usage.Choice == choice
                && use.When?.Holds(_facts, place) != false
                && _products.FindItem(use.Item) is { } goods
            )
            {
                sum += goods.PriceMinor * use.Usage.Quantity;
            }
        }

        return sum;
    }

    private void TakeOff(Coupon? coupon, string code)
    {
        if (coupon is null)
        {
            _problems.Add(new Refusal(ShopperMessages.CouponUnknown, code), null, Place.Order);
            return;
        }

        var total = SumFrom(0);
        var off = coupon.Minor > 0 ? Math.Min(coupon.Minor, total) : Exact.Round((Int128)total * coupon.Ppm, Exact.Million);
        if (off <= 0)
        {
            return;
        }

        _rates.Share(
            _rows,
            new PriceRow
            {
                Kind = PriceRowKind.Coupon,
                Place = Place.Order,
                Coupon = coupon,
            },
            off
        );
    }

    [StructLayout(LayoutKind.Auto)]
    private readonly record struct Charged(Goods Component, int Quantity, Place Place, RuledField Field, string? Choice);
}
