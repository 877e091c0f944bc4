using Sexton.Core.Plan;
using Sexton.Core.Routing;

namespace Sexton.Server.Deliveries;

/// <summary>Where a payload goes, and who is told once it arrived.</summary>
/// <param name="To">The destination.</param>
/// <param name="Told">The keys of the destinations that are told.</param>
/// <param name="Carriers">The keys of the destinations that carry it, where it is a paper.</param>
internal sealed record Landing(BoundDestination To, string[] Told, string[] Carriers)
{
    /// <summary>At a destination of a version. Those that are told events are not told of each other.</summary>
    /// <param name="to">The destination.</param>
    /// <param name="plan">The version.</param>
    public static Landing At(BoundDestination to, RegisterPlan plan) =>
        new(
            to,
            to.Kind.TellsEvents ? [] : plan.Destinations.Told(OrderEvent.Arrived),
            to.Kind.CanBeCarried ? plan.Destinations.CarriersOf(to.Key) : []
        );
}
