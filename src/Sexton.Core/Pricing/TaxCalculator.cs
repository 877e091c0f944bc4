using System.Buffers;
using System.Runtime.InteropServices;
using Sexton.Core.Catalogue;
using Sexton.Core.Values;

namespace Sexton.Core.Pricing;

/// <summary>Reckons tax once per rate, and shares it out over the rows. Its buffers are kept.</summary>
internal sealed class TaxCalculator
{
    private readonly List<TaxSum> _sums = [];

    /// <summary>The tax by rate, the lowest first; a rate of 0 among them.</summary>
    public IReadOnlyList<TaxSum> Sums => _sums;

    /// <summary>What stands at each rate, before tax is reckoned.</summary>
    /// <param name="rows">The rows.</param>
    /// <param name="first">The first row that counts.</param>
    public IReadOnlyList<TaxSum> Count(List<PriceRow> rows, int first = 0)
    {
        _sums.Clear();
        foreach (ref readonly var row in CollectionsMarshal.AsSpan(rows)[first..])
        {
            var at = 0;
            while (at < _sums.Count && _sums[at].Rate.IsBefore(row.Tax))
            {
                at++;
            }

            if (at == _sums.Count || _sums[at].Rate != row.Tax)
            {
                _sums.Insert(at, new TaxSum(row.Tax, 0, 0));
            }

            _sums[at] = _sums[at] with { BaseMinor = _sums[at].BaseMinor + row.SumMinor };
        }

        return _sums;
    }

    /// <summary>Reckons the tax of rows, and gives each its share.</summary>
    /// <returns>The sum of the rows, with tax.</returns>
    public long Calculate(List<PriceRow> rows, TaxRules rules)
    {
        Count(rows);
        var total = 0L;
        var (dues, shares) = (ArrayPool<long>.Shared.Rent(rows.Count), ArrayPool<long>.Shared.Rent(rows.Count));
        for (var i = 0; i < _sums.Count; i++)
        {
            var (rate, sum, _) = _sums[i];
            var tax = Exact.Round((Int128)sum * rate.Ppm, rules.DenominatorOf(rate.Ppm));
            _sums[i] = new TaxSum(rate, sum, tax);
            total += rules.PricesIncludeTax ? sum : sum + tax;
            if (rate.Ppm > 0)
            {
                Share(CollectionsMarshal.AsSpan(rows), rate, rules.DenominatorOf(rate.Ppm), tax, dues, shares);
            }
        }

        ArrayPool<long>.Shared.Return(dues);
        ArrayPool<long>.Shared.Return(shares);
        return total;
    }

    /// <summary>
    /// Leaves the tax to the buyer: what was reckoned is taken out of what includes it, row by row, and no row is taxed any more. What is not taxed stays as it is.
    /// </summary>
    /// <returns>The sum of the rows.</returns>
    public long LeaveToBuyer(List<PriceRow> rows, TaxRules rules)
    {
        foreach (ref var row in CollectionsMarshal.AsSpan(rows))
        {
            if (row.Tax.Category != TaxCategory.Standard)
            {
                continue;
            }

            if (rules.PricesIncludeTax && row.TaxMinor != 0)
            {
                row.SumMinor -= row.TaxMinor;
                row.UnitMinor = row.SumMinor % row.Quantity == 0 ? row.SumMinor / row.Quantity : 0;
            }

            (row.Tax, row.TaxMinor) = (TaxRate.ReverseCharge, 0);
        }

        return Calculate(rows, rules);
    }

    private static void Share(Span<PriceRow> rows, TaxRate rate, int denominator, long tax, long[] dues, long[] shares)
    {
        var count = 0;
        foreach (ref readonly var row in rows)
        {
            if (row.Tax == rate)
            {
                // A row is at most 10¹², a rate at most 10⁶.
                dues[count++] = row.SumMinor * rate.Ppm;
            }
        }

        LargestRemainder.Share(dues.AsSpan(0, count), denominator, tax, shares);
        count = 0;
        foreach (ref var row in rows)
        {
            if (row.Tax == rate)
            {
                row.TaxMinor = shares[count++];
            }
        }
    }
}
