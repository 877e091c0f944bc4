using System.Collections.Immutable;
using Sexton.Core.Catalogue;
using Sexton.Core.Facts;
using Sexton.Core.Types;

namespace Sexton.Core.Components;

/// <summary>What a cart uses up and what it weighs: its goods, and the components that answers use. Its buffers are kept.</summary>
internal sealed class CartUsage
{
    // More than that and nobody needs to hurry.
    private const int WorthTelling = 5;

    private readonly List<UsedItem> _items = [];
    private readonly Dictionary<string, long> _sums = new(StringComparer.Ordinal);
    private IFacts _facts = null!;
    private ProductIndex _products = null!;
    private IProblemSink _problems = null!;
    private StockLevels _stock = StockLevels.Uncounted;

    /// <summary>Place by place: the goods of each line, then what its answers use, then what answers of the order use.</summary>
    public IReadOnlyList<UsedItem> Items => _items;

    /// <summary>What it weighs, in grams.</summary>
    public long WeightGrams { get; private set; }

    /// <summary>Finds out what a cart uses up, and tells what there is not enough of.</summary>
    /// <param name="facts">The cart, asked and checked.</param>
    /// <param name="usages">What answers use up, as displayed.</param>
    /// <param name="weighing">The fields with choices that weigh something.</param>
    /// <param name="products">What the shop sells.</param>
    /// <param name="stock">What is left of what is counted.</param>
    /// <param name="problems">Takes what there is not enough of.</param>
    public void Run(
        IFacts facts,
        ImmutableArray<BoundUsage> usages,
        ImmutableArray<RuledField> weighing,
        ProductIndex products,
        StockLevels stock,
        IProblemSink problems
    )
    {
        (_facts, _products, _stock, _problems, WeightGrams) = (facts, products, stock, problems, 0);
        _items.Clear();
        foreach (var line in facts.PlacesOf(Level.Line))
        {
            var (goods, quantity) = (facts.Goods(line.Line), facts.QuantityOf(line.Line));
            _items.Add(new UsedItem(goods.Code, quantity, line, null, goods));
            WeightGrams += (long)goods.WeightGrams * quantity;
            foreach (var use in usages)
            {
                UseInLine(use, line, quantity);
            }
        }

        foreach (var use in usages)
        {
            UseInOrder(use);
        }

        foreach (var field in weighing)
        {
            Weigh(field);
        }

        TellShortage();
    }

    /// <summary>How often an answer, or a choice, could be taken of what is left, where that is worth telling.</summary>
    public long? FewLeft(ImmutableArray<BoundUsage> usages, string? choice)
    {
        long? fewest = null;
        foreach (var use in usages)
        {
            if (use.Usage.Choice == choice && _stock.Of(use.Item) is { } left && left / use.Usage.Quantity is <= WorthTelling and var times)
            {
                fewest = Math.Min(fewest ?? times, times);
            }
        }

        return fewest;
    }

    private void UseInLine(BoundUsage use, Place line, int quantity)
    {
        if (use.Field.Level == Level.Line && use.Usage.Per != UsagePer.Order)
        {
            var times = use.Usage.Per == UsagePer.Unit ? quantity : 1;
            Add(use, line, CountAt(use, line) * times, times);
        }
        else if (use.Field.Level == Level.Unit && use.Usage.Per != UsagePer.Order)
        {
            var most = 0L;
            foreach (var unit in _facts.PlacesOf(Level.Unit, line.Line))
            {
                var count = CountAt(use, unit);
                most = Math.Max(most, count);
                if (use.Usage.Per == UsagePer.Unit)
                {
                    Add(use, unit, count, 1);
                }
            }

            Add(use, line, use.Usage.Per == UsagePer.Line ? most : 0, 0);
        }
    }

    // Used once over several places: the most that any of them wants, so that their order does not matter.
    private void UseInOrder(BoundUsage use)
    {
        if (use.Field.Level == Level.Order)
        {
            Add(use, Place.Order, CountAt(use, Place.Order), 1);
        }
        else if (use.Usage.Per == UsagePer.Order)
        {
            var most = 0L;
            foreach (var place in _facts.PlacesOf(use.Field.Level))
            {
                most = Math.Max(most, CountAt(use, place));
            }

            Add(use, Place.Order, most, 0);
        }
    }

    private long CountAt(BoundUsage use, Place place)
    {
        if (_facts.ValueOf(use.Field, place) is not { } value || use.When?.Holds(_facts, place) == false)
        {
            return 0;
        }

        // Part of a tie is a whole tie from the shelf; and nobody uses more than all there could be.
        var count = use.Counter.CountOf(value, _facts);
        return count <= 0 ? 0 : (long)Math.Min(Math.Ceiling(count), int.MaxValue) * use.Usage.Quantity;
    }

    private void Add(BoundUsage use, Place place, long quantity, int timesFree)
    {
        if (quantity == 0)
        {
            return;
        }

        var goods = _products.FindItem(use.Item);
        _items.Add(new UsedItem(use.Item, quantity, place, use.Field, goods) { Usage = use, TimesFree = timesFree });
        if (goods is { } component && use.Usage.TakesWeight)
        {
            WeightGrams += component.WeightGrams * quantity;
        }
    }

    private void Weigh(RuledField field)
    {
        if (field.Level == Level.Order)
        {
            WeighAt(field, Place.Order, 1);
            return;
        }

        foreach (var place in _facts.PlacesOf(field.Level))
        {
            WeighAt(field, place, field.Level == Level.Line ? _facts.QuantityOf(place.Line) : 1);
        }
    }

    private void WeighAt(RuledField field, Place place, int pieces)
    {
        if (_facts.ValueOf(field, place) is { } value)
        {
            foreach (var choice in field.Rule.Choices)
            {
                WeightGrams += (long)choice.WeightGrams * field.Rule.TimesTaken(value, choice.Key) * pieces;
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
                var name = item.NameIn(_facts.Language);
                _problems.Add(
                    left == 0
                        ? new Refusal(ShopperMessages.SoldOut, name)
                        : new Refusal(ShopperMessages.FewLeft, name, left.ToString(System.Globalization.CultureInfo.InvariantCulture)),
                    item.Field,
                    item.Place
                );
            }
        }
    }
}
