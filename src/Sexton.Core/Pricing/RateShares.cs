using System.Buffers;
using Sexton.Core.Catalogue;
using Sexton.Core.Values;

namespace Sexton.Core.Pricing;

/// <summary>Shares out over the tax rates what is taken off, so that the tax falls as the price does and is never below nothing. Its buffers are kept.</summary>
internal sealed class RateShares
{
    private readonly TaxCalculator _bases = new();

    /// <summary>Adds the rows of an amount that is taken off all that stands: one for each rate, by what stands at each.</summary>
    /// <param name="rows">The rows.</param>
    /// <param name="row">The row that is shared out; its amounts and its rate do not count.</param>
    /// <param name="off">What is taken off; above zero, and no more than what stands.</param>
    public void Share(List<PriceRow> rows, in PriceRow row, long off) => Insert(rows, rows.Count, 0, row, off);

    /// <summary>
    /// Where at some rate more is taken off than stands there, the rest of it is taken off what stands at the others. Nothing changes about the sum.
    /// </summary>
    /// <param name="rows">The rows, whose sum from the first one on is not below zero.</param>
    /// <param name="first">The first row that counts.</param>
    public void Settle(List<PriceRow> rows, int first)
    {
        for (var i = rows.Count - 1; i >= first; i--)
        {
            // Looked at anew each time: what was moved changed what stands.
            if (rows[i].SumMinor >= 0 || BaseAt(rows, first, rows[i].Tax) is not (< 0 and var below))
            {
                continue;
            }

            var row = rows[i];
            var moved = Math.Min(-below, -row.SumMinor);
            if (moved == -row.SumMinor)
            {
                rows.RemoveAt(i);
            }
            else
            {
                rows[i] = row with
                {
                    Quantity = 1,
                    UnitMinor = row.SumMinor + moved,
                    SumMinor = row.SumMinor + moved,
                    IsOneOfSeveral = true,
                };
            }

            Insert(
                rows,
                Math.Min(rows.Count, i + (moved == -row.SumMinor ? 0 : 1)),
                first,
                row with
                {
                    IsOneOfSeveral = moved < -row.SumMinor,
                },
                moved
            );
        }
    }

    private static long BaseAt(List<PriceRow> rows, int first, TaxRate rate)
    {
        var sum = 0L;
        for (var i = first; i < rows.Count; i++)
        {
            sum += rows[i].Tax == rate ? rows[i].SumMinor : 0;
        }

        return sum;
    }

    private void Insert(List<PriceRow> rows, int at, int first, in PriceRow row, long off)
    {
        var sums = _bases.Count(rows, first);
        var (dues, shares) = (ArrayPool<Int128>.Shared.Rent(sums.Count), ArrayPool<long>.Shared.Rent(sums.Count));
        var all = Int128.Zero;
        for (var i = 0; i < sums.Count; i++)
        {
            all += Math.Max(0, sums[i].BaseMinor);
            dues[i] = (Int128)Math.Max(0, sums[i].BaseMinor) * off;
        }

        LargestRemainder.Share(dues.AsSpan(0, sums.Count), all, off, shares);
        var several = row.IsOneOfSeveral || shares.AsSpan(0, sums.Count).Count(0) < sums.Count - 1;
        for (var i = 0; i < sums.Count; i++)
        {
            if (shares[i] != 0)
            {
                rows.Insert(
                    at++,
                    row with
                    {
                        IsOneOfSeveral = several,
                        Quantity = 1,
                        UnitMinor = -shares[i],
                        SumMinor = -shares[i],
                        Tax = sums[i].Rate,
                    }
                );
            }
        }

        ArrayPool<Int128>.Shared.Return(dues);
        ArrayPool<long>.Shared.Return(shares);
    }
}
