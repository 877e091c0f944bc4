namespace Sexton.Core.Register.Types;

/// <summary>An occasion of which nothing is known but the day: everything is offered.</summary>
/// <param name="today">Today, in the time zone of the shop.</param>
internal sealed class AnyOccasion(DateOnly today) : IOccasion
{
    /// <inheritdoc/>
    public DateOnly Today => today;

    /// <inheritdoc/>
    public bool Offers(int choice) => true;
}
