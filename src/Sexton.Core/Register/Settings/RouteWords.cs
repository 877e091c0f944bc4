using System.Collections.Immutable;
using Sexton.Core.Conditions;
using Sexton.Core.Routing;

namespace Sexton.Core.Register.Settings;

/// <summary>How two routings of a field or section differ, in words.</summary>
internal static class RouteWords
{
    public static IEnumerable<ClauseChange> Of(ImmutableSortedSet<string>? old, ImmutableSortedSet<string> now) =>
        [
            new("no longer goes to ", SideWords.Places(old?.Except(now) ?? []), "", "", AboutRoute: true),
            new("goes to ", "", SideWords.Places(now.Except(old ?? [])), "", AboutRoute: true),
        ];

    public static IEnumerable<ClauseChange> Conditions(
        ImmutableSortedDictionary<string, Condition>? old,
        SideWords then,
        ImmutableSortedDictionary<string, Condition> now,
        SideWords here
    ) =>
        DestinationIndex.All.Select(destination => new ClauseChange(
            $"goes to {destination.Phrase} only when ",
            then.Sentence(old?.GetValueOrDefault(destination.Key)),
            here.Sentence(now.GetValueOrDefault(destination.Key)),
            "",
            AboutRoute: true
        ));
}
