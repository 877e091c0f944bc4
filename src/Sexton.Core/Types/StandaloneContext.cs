namespace Sexton.Core.Types;

/// <summary>An context of which nothing is known but the day: everything is offered.</summary>
/// <param name="today">Today, in the time zone of the shop.</param>
internal sealed class StandaloneContext(DateOnly today) : IAnswerContext
{
    /// <inheritdoc/>
    public DateOnly Today => today;

    /// <inheritdoc/>
    public bool Offers(int choice) => true;
}
