using Sexton.Core.Values;

namespace Sexton.Core.Catalogue;

/// <summary>A code that takes something off an order.</summary>
/// <param name="Code">The code; compared without regard to case.</param>
/// <param name="Name">What its row is called.</param>
public sealed record Coupon(string Code, LanguageMap Name)
{
    /// <summary>The share that it takes off, in parts per million; from 0 to 1,000,000.</summary>
    public int Ppm { get; init; }

    /// <summary>The amount that it takes off, in minor units, and never more than there is; at least 0.</summary>
    public long Minor { get; init; }
}
