using System.Runtime.InteropServices;

namespace Sexton.Core.Types;

/// <summary>How much of a list an answer can take. Where each is taken once or not at all, the number in all is that of the picks.</summary>
/// <param name="Least">The least number in all, at least 0.</param>
/// <param name="Most">The greatest number in all.</param>
/// <param name="LeastOfEach">The least number of a choice that is taken, at least 1.</param>
/// <param name="MostOfEach">The greatest number of a choice.</param>
[StructLayout(LayoutKind.Auto)]
public readonly record struct PickLimits(int Least, int Most, int LeastOfEach, int MostOfEach)
{
    /// <summary>One choice, once.</summary>
    public static readonly PickLimits One = new(1, 1, 1, 1);
}
