using System.Buffers;

namespace Sexton.Core.Values;

/// <summary>
/// Shares out whole minor units so that they sum exactly: everybody first gets the whole part of what is due, and what is left goes, one by
/// one, to the greatest remainders, to the earlier of two equal ones (the largest remainder method, also named after Hamilton and Hare).
/// </summary>
public static class LargestRemainder
{
    /// <summary>Turns exact dues, fractions with one denominator, into whole units that sum to a total.</summary>
    /// <param name="dues">The numerators, also below zero.</param>
    /// <param name="denominator">The denominator; above zero.</param>
    /// <param name="total">What is shared out: the sum of the dues, rounded either way.</param>
    /// <param name="shares">Takes the shares, one for each of the dues.</param>
    /// <example><code>LargestRemainder.Share([1, 1, 1], 3, total: 1, shares) // shares is 1, 0, 0</code></example>
    public static void Share(ReadOnlySpan<Int128> dues, Int128 denominator, long total, Span<long> shares)
    {
        var (ranks, indexes) = (ArrayPool<Int128>.Shared.Rent(dues.Length), ArrayPool<int>.Shared.Rent(dues.Length));
        var left = total;
        for (var i = 0; i < dues.Length; i++)
        {
            var (whole, rest) = Int128.DivRem(dues[i], denominator);
            if (rest < 0)
            {
                (whole, rest) = (whole - 1, rest + denominator);
            }

            shares[i] = (long)whole;
            left -= shares[i];

            // The greatest remainder first, and no two alike, so that the order of equal ones does not hang on how it is sorted.
            (ranks[i], indexes[i]) = (((denominator - rest) * dues.Length) + i, i);
        }

        ranks.AsSpan(0, dues.Length).Sort(indexes.AsSpan(0, dues.Length));
        for (var i = 0; i < left; i++)
        {
            shares[indexes[i]]++;
        }

        ArrayPool<Int128>.Shared.Return(ranks);
        ArrayPool<int>.Shared.Return(indexes);
    }

    /// <summary>The same for dues and a denominator of ordinary size, as those of tax are; it is reckoned with each evaluation.</summary>
    internal static void Share(ReadOnlySpan<long> dues, int denominator, long total, Span<long> shares)
    {
        var ranks = ArrayPool<long>.Shared.Rent(dues.Length);
        var left = total;
        for (var i = 0; i < dues.Length; i++)
        {
            var (whole, rest) = Math.DivRem(dues[i], denominator);
            if (rest < 0)
            {
                (whole, rest) = (whole - 1, rest + denominator);
            }

            shares[i] = whole;
            left -= whole;
            ranks[i] = ((denominator - rest) * dues.Length) + i;
        }

        // The index stands in the rank, so that sorting moves one number and not two.
        var sorted = ranks.AsSpan(0, dues.Length);
        sorted.Sort();
        for (var i = 0; i < left; i++)
        {
            shares[(int)(sorted[i] % dues.Length)]++;
        }

        ArrayPool<long>.Shared.Return(ranks);
    }
}
