using System.Globalization;
using System.Security.Cryptography;
using System.Text;

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
        var (text, language) = (new StringBuilder(), evaluation.Cart.Language);
        foreach (var row in evaluation.Rows)
        {
            text.Append(
                CultureInfo.InvariantCulture,
                $"{row.LineId}/{row.UnitId}/{row.LabelIn(language)}/{row.Quantity}/{row.SumMinor}/{row.TaxPpm}\n"
            );
        }

        foreach (var tax in evaluation.Taxes)
        {
            text.Append(CultureInfo.InvariantCulture, $"{tax.RatePpm}/{tax.TaxMinor}\n");
        }

        foreach (var asked in evaluation.Asked)
        {
            text.Append(asked.LineId).Append('/').Append(asked.UnitId).Append('/').Append(asked.Field.Key).Append('\n');
        }

        return new Offer(
            version,
            evaluation.TotalMinor,
            Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text.ToString())).AsSpan(0, 16))
        );
    }

    /// <summary>Whether this one shows the same: under another version perhaps, which changes nothing about this cart.</summary>
    public bool ShowsSameAs(Offer other) => TotalMinor == other.TotalMinor && Digest == other.Digest;
}
