using Sexton.Core.Facts;
using Sexton.Core.Values;

namespace Sexton.Core.Asking;

/// <summary>What a shopper sees before ordering: an attempt says which one it was, so that nothing is charged that was not shown.</summary>
/// <param name="Version">The number of the version of the register.</param>
/// <param name="TotalMinor">The total with tax, in minor units.</param>
/// <param name="Digest">Tells two offers apart: by their rows, their taxes, and by what is asked. What was answered is no part of it.</param>
public sealed record Offer(int Version, long TotalMinor, string Digest)
{
    /// <summary>The offer of a cart.</summary>
    /// <param name="evaluation">The evaluation.</param>
    /// <param name="version">The number of the version under which it was made.</param>
    /// <example><code>Offer.Of(evaluation, version: 7).ShowsSameAs(seen) // whether the shopper saw what is ordered</code></example>
    public static Offer Of(Evaluation evaluation, int version)
    {
        var digest = new PartsDigest();
        digest.Add(evaluation.Rows.Count);
        foreach (var row in evaluation.Rows)
        {
            digest.Add(row.LineId);
            digest.Add(row.UnitId);
            digest.Add(row.LabelIn(evaluation.Plan.Wording, evaluation.Cart.Language));
            digest.Add(row.Quantity);
            digest.Add(row.SumMinor);
            digest.Add(row.TaxPpm);
            digest.Add((int)row.Tax.Category);
        }

        digest.Add(evaluation.Taxes.Count);
        foreach (var tax in evaluation.Taxes)
        {
            digest.Add(tax.RatePpm);
            digest.Add((int)tax.Rate.Category);
            digest.Add(tax.TaxMinor);
        }

        digest.Add(evaluation.Asked.Count);
        // What is asked comes place by place.
        var place = Place.Order;
        foreach (var asked in evaluation.Asked)
        {
            if (asked.Place != place)
            {
                place = asked.Place;
                digest.Add(asked.LineId);
                digest.Add(asked.UnitId);
            }

            digest.Add(asked.Field.Key);
        }

        return new Offer(version, evaluation.TotalMinor, digest.Take());
    }

    /// <summary>Whether this one shows the same: under another version perhaps, which changes nothing about this cart.</summary>
    public bool ShowsSameAs(Offer other) => TotalMinor == other.TotalMinor && Digest == other.Digest;
}
