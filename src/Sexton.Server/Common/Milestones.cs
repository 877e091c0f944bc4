namespace Sexton.Server.Common;

/// <summary>The points on the way of an order that are logged, so that tests can stop the server exactly there.</summary>
internal static partial class Milestones
{
    [LoggerMessage(Level = LogLevel.Information, Message = "milestone {Milestone} {Order} {Destination}")]
    public static partial void Milestone(this ILogger log, string milestone, Guid order, string destination = "");
}
