using Sexton.Core.Routing;

namespace Sexton.Data.Queue;

/// <summary>An event that is to be told.</summary>
/// <param name="What">What happened.</param>
/// <param name="About">Of what: the line, or where it arrived; null where it is of the order.</param>
public sealed record WantedEvent(OrderEvent What, string? About = null);
