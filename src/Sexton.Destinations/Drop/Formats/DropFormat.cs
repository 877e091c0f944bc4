using Sexton.Core.Facts;
using Sexton.Core.Projections;
using Sexton.Core.Routing;

namespace Sexton.Destinations.Drop.Formats;

/// <summary>A form of a file that is dropped.</summary>
internal abstract class DropFormat
{
    /// <summary>The name of the one part of an artefact.</summary>
    public const string PartName = "file";

    /// <summary>What a name ends in: ".csv".</summary>
    public abstract string Extension { get; }

    /// <summary>What a place takes in it.</summary>
    public abstract Capacity Capacity { get; }

    /// <summary>Whether one file holds many orders.</summary>
    public virtual bool HoldsMany => true;

    /// <summary>The file of one order.</summary>
    public abstract byte[] Write(SentOrder order);

    /// <summary>The file of many orders.</summary>
    public abstract byte[] WriteMany(IReadOnlyList<SentOrder> orders);

    /// <summary>What of a file with many orders is about each, as a file of one, by the id of the order; one of which nothing is there is left out.</summary>
    public abstract IReadOnlyDictionary<Guid, byte[]> SectionsOf(byte[] file, IReadOnlyList<SentOrder> orders);

    /// <summary>The texts by slot in the file of one order; what stands twice stands in no one spot, and counts as not there.</summary>
    /// <param name="file">The bytes, which may be anything.</param>
    /// <param name="sent">What was sent.</param>
    public abstract IReadOnlyDictionary<SlotId, string> Read(byte[] file, Projection sent);

    /// <summary>The file of one order as a person looks at it.</summary>
    /// <param name="file">The bytes.</param>
    /// <param name="sent">What was sent.</param>
    /// <param name="slot">The slot that is looked for, as text.</param>
    public abstract ArtefactPart PartOf(byte[] file, Projection sent, string slot);
}
