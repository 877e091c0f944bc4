using System.Collections.Immutable;
using Sexton.Core.Facts;
using Sexton.Core.Orders;
using Sexton.Core.Routing;

namespace Sexton.Core.Projections;

/// <summary>Which parts of an order go to a destination.</summary>
public static class OrderParts
{
    /// <summary>The parts that go there, each by itself: none where it is switched off, where its condition picks nothing, or where the answer for each of which there is one was not given.</summary>
    /// <param name="facts">The facts and answers of the order.</param>
    /// <param name="to">The destination.</param>
    /// <example><code>OrderParts.Of(new OrderFacts(order), maker) // a part for each line that goes to the maker</code></example>
    public static IEnumerable<OrderPart> Of(OrderFacts facts, BoundDestination to)
    {
        if (!to.IsOn)
        {
            return [];
        }

        var picked = PlacesOf(facts, to.Picks).Where(p => IsPicked(facts, to, p) && Travels(facts, to, p));
        var parts = to.GoesBy == to.Picks ? picked : picked.Take(1).Select(static _ => Place.Order);
        return parts
            .Where(p => to.OneForEach is not { } field || facts.Find(field, p) is not null)
            .Select(p => new OrderPart(facts.LineIdAt(p) ?? "", facts.UnitIdAt(p) ?? ""));
    }

    /// <summary>The lines of a part that go to a destination.</summary>
    /// <param name="order">The order.</param>
    /// <param name="facts">Its facts and answers.</param>
    /// <param name="to">The destination.</param>
    /// <param name="part">The part.</param>
    public static ImmutableArray<OrderLine> LinesOf(OrderContent order, OrderFacts facts, BoundDestination to, OrderPart part) =>
        part == OrderPart.Whole
            ?
            [
                .. order.Lines.Where(
                    (_, i) => (to.Picks != Level.Line || IsPicked(facts, to, Place.OfLine(i))) && Travels(facts, to, Place.OfLine(i))
                ),
            ]
            : [.. order.Lines.Where(l => l.Id == part.LineId)];

    /// <summary>Who makes a line; null where nobody does.</summary>
    /// <param name="order">The order.</param>
    /// <param name="facts">Its facts and answers.</param>
    /// <param name="destinations">The destinations in force.</param>
    /// <param name="line">The line.</param>
    public static BoundDestination? MakerOf(OrderContent order, OrderFacts facts, DestinationIndex destinations, OrderLine line) =>
        destinations.All.FirstOrDefault(d =>
            d is { Kind.Makes: true, IsOn: true } && LinesOf(order, facts, d, OrderPart.Whole).Contains(line)
        );

    private static IEnumerable<Place> PlacesOf(OrderFacts facts, Level level)
    {
        if (level == Level.Order)
        {
            return [Place.Order];
        }

        return facts.Places().Where(p => p.Level == level);
    }

    // A line goes to one maker: to whom somebody gave it, or to the first on the map that gets such lines.
    private static bool IsPicked(OrderFacts facts, BoundDestination to, Place place)
    {
        if (!to.Kind.Makes)
        {
            return Gets(facts, to, place);
        }

        return facts.GivenTo(place) is { } maker
            ? maker == to.Key
            : Gets(facts, to, place) && !to.Before.Any(other => Gets(facts, other, place));
    }

    // What is not sent is not in the parcel.
    private static bool Travels(OrderFacts facts, BoundDestination to, Place place) =>
        !to.Kind.GoesWithTheParcel
        || (
            place.Level == Level.Order
                ? PlacesOf(facts, Level.Line).Any(line => facts.Goods(line.Line).Product.Ships)
                : facts.Goods(place.Line).Product.Ships
        );

    private static bool Gets(OrderFacts facts, BoundDestination to, Place place) =>
        !to.Kind.OnlyByHand(to.Settings) && to.Gets?.Holds(facts, place) != false;
}
