using System.Globalization;
using System.Runtime.InteropServices;
using Sexton.Core.Orders;
using Sexton.Core.Routing;

namespace Sexton.Core.Projections;

/// <summary>From when on a part of an order may go to a destination, seen from the moment when it is placed.</summary>
/// <param name="IsHeld">Whether it waits until somebody says that its lines are prepared.</param>
/// <param name="Day">The day on which it goes, or at once where that is over; null for at once.</param>
[StructLayout(LayoutKind.Auto)]
public readonly record struct ReleasePoint(bool IsHeld, DateOnly? Day)
{
    /// <summary>From when on a part may go.</summary>
    /// <param name="order">The order.</param>
    /// <param name="facts">Its facts and answers.</param>
    /// <param name="to">The destination.</param>
    /// <param name="part">The part.</param>
    /// <param name="prepared">The ids of the lines that somebody prepared.</param>
    public static ReleasePoint Of(
        OrderContent order,
        OrderFacts facts,
        BoundDestination to,
        OrderPart part,
        IReadOnlySet<string> prepared
    ) =>
        to.Plain.Release switch
        {
            // An order is charged before it is placed, or not at all, and nothing holds its lines yet: it is placed, paid and approved at once.
            Release.Prepared => new(!OrderParts.LinesOf(order, facts, to, part).All(l => prepared.Contains(l.Id)), null),
            Release.Day => new(
                false,
                to.Day is { } day && facts.ValueOf(day, facts.PlaceOf(part)) is { } value ? DayIn(day.FactOf(value).Text) : null
            ),
            _ => new(false, null),
        };

    private static DateOnly? DayIn(string? text) =>
        DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day) ? day : null;
}
