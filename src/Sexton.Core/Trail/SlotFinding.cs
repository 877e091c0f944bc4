using Sexton.Core.Facts;
using Sexton.Core.Projections;
using Sexton.Core.Routing;

namespace Sexton.Core.Trail;

/// <summary>What one part of an artefact shows of one entry.</summary>
/// <param name="Slot">The slot, as text.</param>
/// <param name="Part">The part of the artefact: "html", "text", "record", "page".</param>
/// <param name="Expected">The text that should stand there.</param>
/// <param name="Found">The text that stands there; null when the slot is not there.</param>
/// <param name="Finding">What follows.</param>
public sealed record SlotFinding(string Slot, string Part, string Expected, string? Found, Finding Finding)
{
    /// <summary>Whether what stands there is what should.</summary>
    public bool Agrees => Finding is Finding.Shown or Finding.Included or Finding.Confirmed;

    /// <summary>
    /// Compares what was read back with what was sent, slot by slot, exactly (ordinal).
    /// </summary>
    /// <param name="projection">The projection as sent.</param>
    /// <param name="part">The part of the artefact.</param>
    /// <param name="found">The texts read back, by slot.</param>
    /// <param name="ceiling">The best evidence that the destination can give.</param>
    /// <example><code>SlotFinding.Judge(sent, "record", SaleReader.Read(record), Evidence.Confirmed)</code></example>
    public static IEnumerable<SlotFinding> Judge(
        Projection projection,
        string part,
        IReadOnlyDictionary<SlotId, string> found,
        Evidence ceiling
    )
    {
        foreach (var entry in projection.Entries)
        {
            var text = found.GetValueOrDefault(entry.Slot);
            yield return new SlotFinding(entry.Slot.ToString(), part, entry.Proof, text, FindingOf(entry.Proof, text, ceiling));
        }
    }

    /// <summary>An answer that somebody asked to see, and saw.</summary>
    public static SlotFinding Seen(SlotId slot, string part) => new(slot.ToString(), part, "", "", Finding.Shown);

    /// <summary>The worst of several findings of one slot: a message says what all its parts say.</summary>
    public static Finding Worst(IEnumerable<Finding> findings) => findings.DefaultIfEmpty(Finding.None).Max();

    private static Finding FindingOf(string expected, string? found, Evidence ceiling)
    {
        if (found is null)
        {
            return Finding.Missing;
        }

        if (!string.Equals(expected, found, StringComparison.Ordinal))
        {
            return Finding.Altered;
        }

        return ceiling switch
        {
            Evidence.Confirmed => Finding.Confirmed,
            Evidence.Included => Finding.Included,
            _ => Finding.Shown,
        };
    }
}
