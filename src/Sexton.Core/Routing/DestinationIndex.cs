using System.Collections.Frozen;
using System.Collections.Immutable;
using Sexton.Core.Sentences;
using Sexton.Core.Types.Settings;

namespace Sexton.Core.Routing;

/// <summary>The destinations of one register, bound, in the order in which they stand on the map: family by family.</summary>
public sealed class DestinationIndex
{
    private readonly FrozenDictionary<string, BoundDestination> _byKey;

    /// <summary>Binds destinations. One of a kind that is not there, or with settings that it does not take, is left out; compiling the register names it.</summary>
    /// <param name="destinations">The destinations.</param>
    /// <param name="kinds">The kinds that the host has.</param>
    /// <param name="wording">What the shop says; as shipped where it is left out.</param>
    public DestinationIndex(IEnumerable<Destination> destinations, DestinationKinds kinds, Wording? wording = null)
    {
        All =
        [
            .. destinations
                .DistinctBy(static d => d.Key)
                .Select(d => (Plain: d, Kind: kinds.Find(d.Kind)))
                .Where(static d => d.Kind is not null && !SettingsObject.Validate(d.Kind.Name, d.Kind.Settings, d.Plain.Settings).Any())
                .Select(d => new BoundDestination(d.Plain, d.Kind!, wording))
                .OrderBy(d => kinds.Families.IndexOf(d.Kind.Family)),
        ];
        foreach (var maker in All.Where(static d => d.Kind.Makes))
        {
            maker.Before = [.. All.TakeWhile(d => d != maker).Where(static d => d.Kind.Makes && d.IsOn)];
        }

        _byKey = All.ToFrozenDictionary(static d => d.Key, StringComparer.Ordinal);
        foreach (var carrier in All.Where(static d => d.Carries.Length > 0))
        {
            carrier.Papers =
            [
                .. carrier.Carries.Select(Find).OfType<BoundDestination>().Where(static d => d is { IsOn: true, Kind.CanBeCarried: true }),
            ];
        }
    }

    /// <summary>All destinations.</summary>
    public ImmutableArray<BoundDestination> All { get; }

    /// <summary>The keys of the destinations that are told of something.</summary>
    public string[] Told(OrderEvent what) => [.. All.Where(d => d.IsOn && d.Events.Contains(what)).Select(static d => d.Key)];

    /// <summary>The keys of the destinations that carry a paper.</summary>
    /// <param name="paper">The key of the paper.</param>
    public string[] CarriersOf(string paper) => [.. All.Where(d => d.Papers.Any(p => p.Key == paper)).Select(static d => d.Key)];

    /// <summary>The destination with a key, or null.</summary>
    public BoundDestination? Find(string key) => _byKey.GetValueOrDefault(key);
}
