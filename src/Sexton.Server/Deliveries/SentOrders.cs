using Sexton.Core.Facts;
using Sexton.Core.Orders;
using Sexton.Core.Plan;
using Sexton.Core.Projections;
using Sexton.Destinations;

namespace Sexton.Server.Deliveries;

/// <summary>Puts together what a destination gets of a part of an order: what is sent and what is only shown are the same.</summary>
internal static class SentOrders
{
    /// <summary>An order on its way to a destination.</summary>
    /// <param name="sent">The order, its projection and the destination.</param>
    /// <param name="current">The register, which says what is shown where and how lines leave.</param>
    /// <param name="own">The register under which it was placed.</param>
    /// <param name="part">The part that goes.</param>
    public static SentOrder Along(this SentOrder sent, RegisterPlan current, RegisterPlan own, OrderPart part) =>
        sent with
        {
            Part = part,
            Lines = OrderParts.LinesOf(sent.Content, new OrderFacts(sent.Content), sent.To, part),
            PriceRows = sent.Content.Prices.RowsAt(current, sent.To.Key, sent.Content, sent.Projection),
            LeftEmpty = sent.To.Kind is DeliveredKind { TellsLeftEmpty: true }
                ? Projector.LeftEmpty(sent.Content, own, current, sent.To, part)
                : [],
            NamesOfAnswers = !sent.To.Kind.FindsByName
                ? []
                :
                [
                    .. Enum.GetValues<Level>()
                        .SelectMany(level => current.FieldsOf(level))
                        .Where(f => f.Field.GoesTo.Contains(sent.To.Key))
                        .Select(f => sent.To.NameThere(f.Field.Key, sent.Content.Language))
                        .OfType<string>(),
                ],
            Leaving = current.Content.Codes.LeavingFor(sent.To.Key),
        };
}
