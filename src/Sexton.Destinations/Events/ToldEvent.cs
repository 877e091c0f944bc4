using Sexton.Core.Routing;

namespace Sexton.Destinations.Events;

/// <summary>What a destination is told of an order.</summary>
/// <param name="What">What happened.</param>
/// <param name="About">The id of the line, or where it arrived: the key of the destination and the part, "bench/line-1"; null where it is of the order.</param>
/// <param name="At">When it happened.</param>
public sealed record ToldEvent(OrderEvent What, string? About, DateTimeOffset At);
