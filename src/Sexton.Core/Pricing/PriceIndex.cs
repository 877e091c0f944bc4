using System.Collections.Immutable;

namespace Sexton.Core.Pricing;

/// <summary>All prices of a register, found by kind.</summary>
/// <param name="fields">The fields, as displayed.</param>
public sealed class PriceIndex(IEnumerable<PricedField> fields)
{
    private readonly ImmutableArray<ImmutableArray<BoundPrice>> _byKind =
    [
        .. Enum.GetValues<PriceKind>()
            .Select(kind =>
                fields.OrderBy(static f => f.Level).SelectMany(static f => f.Prices).Where(p => p.Price.Kind == kind).ToImmutableArray()
            ),
    ];

    /// <summary>The prices of a kind: of fields of the order, then of lines, then of units, as displayed.</summary>
    public ImmutableArray<BoundPrice> Of(PriceKind kind) => _byKind[(int)kind];
}
