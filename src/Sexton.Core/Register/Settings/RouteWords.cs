using System.Collections.Immutable;
using Sexton.Core.Conditions;

namespace Sexton.Core.Register.Settings;

/// <summary>How two routings of a field or section differ, in words.</summary>
internal static class RouteWords
{
    public static IEnumerable<ClauseChange> Of(
        ImmutableSortedSet<string>? old,
        SideWords then,
        ImmutableSortedSet<string> now,
        SideWords here
    ) =>
        [
            new("no longer goes to ", then.Destinations(old?.Except(now) ?? []), "", "", AboutRoute: true),
            new("goes to ", "", here.Destinations(now.Except(old ?? [])), "", AboutRoute: true),
        ];

    public static IEnumerable<ClauseChange> Conditions(
        ImmutableSortedDictionary<string, Condition>? old,
        SideWords then,
        ImmutableSortedDictionary<string, Condition> now,
        SideWords here
    ) =>
        now
            .Keys.Union(old?.Keys ?? [], StringComparer.Ordinal)
            .Select(destination => new ClauseChange(
                $"goes to {here.Phrase(destination) ?? then.Phrase(destination) ?? destination} only when ",
                then.Sentence(old?.GetValueOrDefault(destination)),
                here.Sentence(now.GetValueOrDefault(destination)),
                "",
                AboutRoute: true
            ));

    /// <summary>The conditions of routes with that to one destination changed; null takes it away.</summary>
    public static ImmutableSortedDictionary<string, Condition> With(
        ImmutableSortedDictionary<string, Condition> conditions,
        string destination,
        Condition? condition
    ) => condition is null ? conditions.Remove(destination) : conditions.SetItem(destination, condition);
}
