using System.Collections.Immutable;
using Sexton.Core.Routing;
using Sexton.Core.Types;

namespace Sexton.Core.Register;

/// <summary>A route that is left out.</summary>
/// <param name="Destination">Where the answers would go.</param>
/// <param name="Why">Why they cannot, in a sentence; null where they can by now.</param>
public sealed record LeftOutRoute(BoundDestination Destination, string? Why);

/// <summary>
/// Where the answers of a field go. A route is on, off (somebody chose), or left out: it could not start on or be switched on, and goes on as soon as it can.
/// Whoever accepts that it cannot switches it off.
/// </summary>
public static class Routes
{
    /// <summary>A new field with the routes that it begins with: on wherever new fields go by themselves and its answers are taken.</summary>
    /// <param name="field">The field.</param>
    /// <param name="rule">Its rule.</param>
    /// <param name="destinations">Where answers can go.</param>
    public static Field Begin(Field field, AnswerRule rule, DestinationIndex destinations)
    {
        var takers = destinations.All.Where(d => d.Plain is { TakesNewFields: true, Retired: false } && d.Takes(field.Level)).ToList();
        return field with
        {
            GoesTo = [.. takers.Where(d => d.WhyNot(field.Key, rule, field.Level, field.Privacy) is null).Select(static d => d.Key)],
            LeftOut = [.. takers.Where(d => d.WhyNot(field.Key, rule, field.Level, field.Privacy) is not null).Select(static d => d.Key)],
        };
    }

    /// <summary>A changed field: what was switched on and cannot be is left out, and what was left out and can be taken by now goes.</summary>
    /// <param name="before">It as it was.</param>
    /// <param name="after">It as it is to be.</param>
    /// <param name="rule">Its rule.</param>
    /// <param name="destinations">Where answers can go.</param>
    /// <example><code>Routes.Settle(before, before with { GoesTo = before.GoesTo.Add("back_office") }, rule, destinations) // goes there, or is left out</code></example>
    public static Field Settle(Field before, Field after, AnswerRule rule, DestinationIndex destinations)
    {
        bool IsTaken(string key) =>
            destinations.Find(key) is not { } destination || destination.WhyNot(after.Key, rule, after.Level, after.Privacy) is null;
        var refused = after.GoesTo.Except(before.GoesTo).Where(key => !IsTaken(key)).ToList();
        var taken = after.LeftOut.Where(IsTaken).ToList();
        return refused.Count + taken.Count == 0
            ? after
            : after with
            {
                GoesTo = after.GoesTo.Except(refused).Union(taken),
                LeftOut = after.LeftOut.Except(taken).Union(refused),
            };
    }

    /// <summary>Where a field is left out.</summary>
    /// <param name="field">The field.</param>
    /// <param name="rule">Its rule.</param>
    /// <param name="destinations">Where answers can go.</param>
    public static ImmutableArray<LeftOutRoute> LeftOut(Field field, AnswerRule rule, DestinationIndex destinations) =>
        [
            .. destinations
                .All.Where(d => field.LeftOut.Contains(d.Key))
                .Select(d => new LeftOutRoute(d, d.WhyNot(field.Key, rule, field.Level, field.Privacy))),
        ];
}
