using Sexton.Core.Asking;
using Sexton.Core.Catalogue;
using Sexton.Core.Conditions;
using Sexton.Core.Register;
using Sexton.Core.Register.Types;

namespace Sexton.Core.Codes;

/// <summary>What a cart uses up and what it weighs: its goods, and the components that answers use. Its buffers are kept.</summary>
internal sealed class CartUses
{
    // More than that and nobody needs to hurry.
    private const int WorthTelling = 5;

    private readonly List<UsedItem> _items = [];
    private readonly Dictionary<string, long> _sums = new(StringComparer.Ordinal);
    private Evaluation _cart = null!;
    private ProductIndex _products = null!;
    private StockLevels _stock = StockLevels.Uncounted;

    /// <summary>Place by place: the goods of each line, then what its answers use, then what answers of the order use.</summary>
    public IReadOnlyList<UsedItem> Items => _items;

    /// <summary>What it weighs, in grams.</summary>
    public long WeightGrams { get; private set; }

    public void Run(Evaluation cart, ProductIndex products, StockLevels stock)
    {
        (_cart, _products, _stock, WeightGrams) = (cart, products, stock, 0);
        _items.Clear();
        for (var line = 0; line < cart.LineCount; line++)
        {
            if (!cart.IsSold(line))
            {
                continue;
            }

            var (goods, quantity) = (cart.Goods(line), cart.LineAt(line).Quantity);
            _items.Add(new UsedItem(goods.Code, quantity, new Place(line, -1), null, goods));
            WeightGrams += (long)goods.WeightGrams * quantity;
            foreach (var use in cart.Plan.Uses)
            {
                UseInLine(use, line, quantity);
            }
        }

        foreach (var use in cart.Plan.Uses)
        {
            UseInOrder(use);
        }

        WeighChoices();
        TellShortage();
    }

    /// <summary>How often an answer, or a choice, could be taken of what is left, where that is worth telling.</summary>
    public long? FewLeft(PlannedField field, string? choice)
    {
        long? fewest = null;
        foreach (var use in field.Uses)
        {
            if (
                use.Use.Choice == choice
                && _stock.Of(use.Item) is { } left
                && left / use.Use.Quantity is <= WorthTelling and var times
                && (fewest is null || times < fewest)
            )
            {
                fewest = times;
            }
        }

        return fewest;
    }

    private void UseInLine(BoundUse use, int line, int quantity)
    {
        if (use.Field.Level == Level.Line && use.Use.Per != UsePer.Order)
        {
            var place = new Place(line, -1);
            var times = use.Use.Per == UsePer.Unit ? quantity : 1;
            Add(use, place, CountAt(use, place) * times, FreeAt(use, place) * times);
        }
        else if (use.Field.Level == Level.Unit && use.Use.Per != UsePer.Order)
        {
            var most = 0L;
            for (var unit = 0; unit < _cart.UnitsOf(line); unit++)
            {
                var count = CountAt(use, new Place(line, unit));
                most = Math.Max(most, count);
                if (use.Use.Per == UsePer.Unit)
                {
                    Add(use, new Place(line, unit), count, FreeAt(use, new Place(line, unit)));
                }
            }

            Add(use, new Place(line, -1), use.Use.Per == UsePer.Line ? most : 0, 0);
        }
    }

    // Used once over several places: the most that any of them wants, so that their order does not matter.
    private void UseInOrder(BoundUse use)
    {
        if (use.Field.Level == Level.Order)
        {
            Add(use, Place.Order, CountAt(use, Place.Order), FreeAt(use, Place.Order));
            return;
        }

        var most = 0L;
        for (var line = 0; use.Use.Per == UsePer.Order && line < _cart.LineCount; line++)
        {
            for (var i = 0; _cart.IsSold(line) && i < (use.Field.Level == Level.Line ? 1 : _cart.UnitsOf(line)); i++)
            {
                most = Math.Max(most, CountAt(use, new Place(line, use.Field.Level == Level.Line ? -1 : i)));
            }
        }

        Add(use, Place.Order, most, 0);
    }

    private long CountAt(BoundUse use, Place place)
    {
        if (_cart.ValueOf(use.Field, place) is not { } value || use.When?.Holds(_cart, place) == false)
        {
            return 0;
        }

        // Part of a tie is a whole tie from the shelf; and nobody uses more than all there could be.
        var count = use.Price.CountOf(value);
        return count <= 0 ? 0 : (long)Math.Min(Math.Ceiling(count), int.MaxValue) * use.Use.Quantity;
    }

    // The component of what is included is free with it.
    private long FreeAt(BoundUse use, Place place) =>
        use.Use.TakesPrice ? (long)_cart.IncludedOf(use.Field, use.Use.Choice, place) * use.Use.Quantity : 0;

    private void Add(BoundUse use, Place place, long quantity, long free)
    {
        if (quantity == 0)
        {
            return;
        }

        var goods = _products.FindItem(use.Item);
        _items.Add(new UsedItem(use.Item, quantity, place, use.Field, goods, use.Use.Choice));
        if (goods is { } component)
        {
            WeightGrams += use.Use.TakesWeight ? component.WeightGrams * quantity : 0;
            if (use.Use.TakesPrice && quantity > free)
            {
                _cart.Charge(component, quantity - free, place, use.Field, use.Use.Choice);
            }
        }
    }

    private void WeighChoices()
    {
        for (var i = 0; i < _cart.Asked.Count; i++)
        {
            var asked = _cart.Asked[i];
            if (asked.Value is not { } value || !asked.Field.Weighs)
            {
                continue;
            }

            var pieces = asked.Field.Level == Level.Line ? _cart.LineAt(asked.Place.Line).Quantity : 1;
            foreach (var choice in asked.Field.Rule.Choices)
            {
                WeightGrams += (long)choice.WeightGrams * asked.Field.Rule.TimesTaken(value, choice.Key) * pieces;
            }
        }
    }

    private void TellShortage()
    {
        _sums.Clear();
        foreach (var item in _items)
        {
            if (_stock.Of(item.Item) is not { } left)
            {
                continue;
            }

            var before = _sums.GetValueOrDefault(item.Item);
            _sums[item.Item] = before + item.Quantity;
            if (before <= left && before + item.Quantity > left)
            {
                var name = item.NameIn(_cart.Cart.Language);
                _cart.AddProblem(
                    left == 0
                        ? new Refusal(Sentences.SoldOut, name)
                        : new Refusal(Sentences.FewLeft, name, left.ToString(System.Globalization.CultureInfo.InvariantCulture)),
                    item.Field,
                    item.Place
                );
            }
        }
    }
}
