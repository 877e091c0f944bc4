using System.Collections.Immutable;

namespace Sexton.Core.Routing;

/// <summary>The index of the kinds of destination that the host has.</summary>
public sealed class DestinationKinds
{
    private readonly Dictionary<string, DestinationKind> _byKey;

    /// <summary>An index of kinds; their keys must differ.</summary>
    /// <exception cref="ArgumentException">Two have the same key.</exception>
    public DestinationKinds(IEnumerable<DestinationKind> kinds)
    {
        All = [.. kinds];
        _byKey = All.ToDictionary(static k => k.Key, StringComparer.Ordinal);
        Families = [.. All.Select(static k => k.Family).Distinct()];
    }

    /// <summary>All kinds, in the order in which they stand on the map.</summary>
    public ImmutableArray<DestinationKind> All { get; }

    /// <summary>The families of the kinds, in the order in which they stand on the map.</summary>
    public ImmutableArray<DestinationFamily> Families { get; }

    /// <summary>The kind with a key, or null.</summary>
    public DestinationKind? Find(string key) => _byKey.GetValueOrDefault(key);

    /// <summary>The destinations that a new shop begins with: one of each kind that says so, under its own key.</summary>
    public ImmutableArray<Destination> AtFirst =>
        [
            .. All.Where(static k => k.IsThereAtFirst)
                .Select(static k => new Destination
                {
                    Key = k.Key,
                    Kind = k.Key,
                    Name = k.Name,
                    TakesNewFields = true,
                }),
        ];
}
