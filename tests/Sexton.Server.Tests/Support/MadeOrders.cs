using System.Collections.Immutable;
using Sexton.Core.Orders;
using Sexton.Core.Pricing;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Values;
using Sexton.Destinations;

namespace Sexton.Server.Tests.Support;

/// <summary>An order of one line of two seats, of which entries go to a destination.</summary>
internal static class MadeOrders
{
    public static SentOrder Of(ImmutableArray<Entry> entries, BoundDestination to) =>
        new(
            Guid.Parse("11111111-1111-1111-1111-111111111111"),
            1,
            DateTimeOffset.UnixEpoch,
            new OrderContent
            {
                Version = 1,
                Language = "en",
                Group = "household",
                Country = "IE",
                Day = new DateOnly(2026, 11, 25),
                Prices = new([new("a", null, PriceRowKind.Goods, null, "Product 1", 1, 1, 1, 0, 0)], IncludeTax: true, 1, "EUR"),
                Lines =
                [
                    new("a", "A-1", "Product 1", 2, Senders.Goods)
                    {
                        Units = ["u1", "u2"],
                        UnitName = "Seat",
                        ItemCode = "A-1",
                    },
                ],
                Answers =
                [
                    .. entries.Select(static e => new OrderAnswer(e.LineId, e.UnitId, e.Field, e.Name, AnswerValue.Of(e.Text), e.Text)),
                ],
            },
            new Projection(entries),
            to
        );
}
