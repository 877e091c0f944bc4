using System.Collections.Frozen;

namespace Sexton.Core.Catalogue;

/// <summary>How many there are of what is counted: on the shelf and held by nobody.</summary>
/// <param name="left">How many are left, by item code; at least 0.</param>
public sealed class StockLevels(IEnumerable<KeyValuePair<string, long>> left)
{
    /// <summary>Nothing is counted: there is enough of everything.</summary>
    public static readonly StockLevels Uncounted = new([]);

    private readonly FrozenDictionary<string, long> _left = left.ToFrozenDictionary(StringComparer.Ordinal);

    /// <summary>How many are left; null for what is not counted.</summary>
    public long? Of(string item) => _left.TryGetValue(item, out var left) ? left : null;
}
