using System.Collections.Immutable;
using System.Globalization;
using Sexton.Core.Catalogue;
using Sexton.Core.Facts;
using Sexton.Core.Values;

namespace Sexton.Core.Orders;

/// <summary>The facts and answers of an order as they were, whatever register asks for them: what no answer was given to then is not given.</summary>
public sealed class OrderFacts : IFacts
{
    private readonly OrderContent _order;
    private readonly Dictionary<(Place Place, string Field), AnswerValue> _answers;
    private readonly Goods[] _goods;

    /// <summary>Makes them of an order.</summary>
    public OrderFacts(OrderContent order)
    {
        _order = order;
        _goods = [.. order.Lines.Select(GoodsOf)];
        _answers = order.Answers.Where(static a => a.Value is not null).ToDictionary(a => (PlaceOf(a), a.Field), static a => a.Value!);
        CartTotal = order.Lines.Sum(static l => (decimal)l.Facts.CatalogueMinor * l.Quantity) / MoneyText.UnitOf(order.Prices.Currency);
    }

    /// <inheritdoc/>
    public string Language => _order.Language;

    /// <inheritdoc/>
    public string Group => _order.Group;

    /// <inheritdoc/>
    public string Country => _order.Country;

    /// <inheritdoc/>
    public string Home => "";

    /// <inheritdoc/>
    public string Day => _order.Day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    /// <inheritdoc/>
    public decimal CartTotal { get; }

    /// <inheritdoc/>
    public decimal CartCount => _order.Lines.Sum(static l => l.Quantity);

    /// <inheritdoc/>
    public int LineCount => _order.Lines.Length;

    /// <inheritdoc/>
    public bool IsSold(int line) => true;

    /// <inheritdoc/>
    public int UnitsOf(int line) => _order.Lines[line].Units.Length;

    /// <inheritdoc/>
    public int QuantityOf(int line) => _order.Lines[line].Quantity;

    /// <inheritdoc/>
    public Goods Goods(int line) => _goods[line];

    /// <inheritdoc/>
    public bool Awaits(AnswerSource source, Place place) => false;

    /// <inheritdoc/>
    public string? LineIdAt(Place place) => place.Line < 0 ? null : _order.Lines[place.Line].Id;

    /// <inheritdoc/>
    public string? UnitIdAt(Place place) => place.Unit < 0 ? null : _order.Lines[place.Line].Units[place.Unit];

    /// <inheritdoc/>
    public AnswerValue? ValueOf(AnswerSource source, Place place) =>
        _answers.GetValueOrDefault(
            (
                source.Level switch
                {
                    Level.Order => Place.Order,
                    Level.Line => Place.OfLine(place.Line),
                    _ => place,
                },
                source.Key
            )
        );

    /// <summary>The answer to a field at a place, or at the line or order around it; null where none was given.</summary>
    /// <param name="field">The key of the field.</param>
    /// <param name="place">The place.</param>
    public AnswerValue? Find(string field, Place place) =>
        _answers.GetValueOrDefault((place, field))
        ?? _answers.GetValueOrDefault((Place.OfLine(place.Line), field))
        ?? _answers.GetValueOrDefault((Place.Order, field));

    /// <summary>The key of the maker to whom somebody gave a line; null where nobody did.</summary>
    /// <param name="place">The line, or one of its units.</param>
    public string? GivenTo(Place place) => LineIdAt(place) is { } line ? _order.GivenTo.GetValueOrDefault(line) : null;

    /// <summary>Where an answer of the order stands.</summary>
    /// <exception cref="ArgumentException">The order has no line of that id.</exception>
    public Place PlaceOf(OrderAnswer answer) => PlaceOf(answer.LineId ?? "", answer.UnitId ?? "");

    /// <summary>Where a part of the order stands.</summary>
    /// <exception cref="ArgumentException">The order has no line of that id.</exception>
    public Place PlaceOf(OrderPart part) => PlaceOf(part.LineId, part.UnitId);

    private Place PlaceOf(string lineId, string unitId)
    {
        if (lineId.Length == 0)
        {
            return Place.Order;
        }

        for (var line = 0; line < LineCount; line++)
        {
            if (_order.Lines[line].Id == lineId)
            {
                return new Place(line, unitId.Length == 0 ? -1 : _order.Lines[line].Units.IndexOf(unitId));
            }
        }

        throw new ArgumentException("The order has no such line.", nameof(lineId));
    }

    private static Goods GoodsOf(OrderLine line)
    {
        var (facts, name) = (line.Facts, LanguageMap.Of(line.ProductName));
        var product = new Product(facts.ProductCode, name, facts.Categories, facts.CatalogueMinor)
        {
            Tags = facts.Tags,
            Attributes = facts.Attributes,
            Ships = facts.Ships,
        };
        return new Goods(product, facts.VariantCode is null ? null : new Variant(facts.VariantCode, name, facts.CatalogueMinor));
    }
}
