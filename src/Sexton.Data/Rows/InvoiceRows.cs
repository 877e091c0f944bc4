using Sexton.Core.Invoicing;

namespace Sexton.Data.Rows;

/// <summary>An invoice or a credit note: its number from the moment when that was taken, its bytes once it was issued. Neither changes again.</summary>
public sealed class InvoiceRow
{
    /// <summary>The id.</summary>
    public required Guid Id { get; init; }

    /// <summary>Which of them it is; each has numbers of its own.</summary>
    public required InvoiceDocumentKind Kind { get; init; }

    /// <summary>The number, from the first one of the shop and without gaps.</summary>
    public required long Number { get; init; }

    /// <summary>The order.</summary>
    public required Guid OrderId { get; init; }

    /// <summary>The lane along which it goes.</summary>
    public required long LaneId { get; init; }

    /// <summary>The payload of the lane.</summary>
    public required int Sequence { get; set; }

    /// <summary>The day on which the number was taken, in the time zone of the shop.</summary>
    public required DateOnly IssuedOn { get; init; }

    /// <summary>The invoice that a credit note takes back; null for an invoice.</summary>
    public Guid? Credits { get; init; }

    /// <summary>The lane of the credit note that takes it back; null while nothing does.</summary>
    public long? CreditLaneId { get; init; }

    /// <summary>The payload of that lane: which invoice each takes back is settled once, whichever of several is issued first.</summary>
    public int? CreditSequence { get; init; }

    /// <summary>The revision of the order that it is of; null until it is issued.</summary>
    public int? Revision { get; set; }

    /// <summary>Tells what stands on it, without number and day; null until it is issued.</summary>
    public byte[]? Hash { get; set; }

    /// <summary>Its own key, wrapped: what a law keeps outlives the key of the order. Empty until it is issued.</summary>
    public required byte[] Key { get; set; }

    /// <summary>What it says, as JSON, sealed; null until it is issued.</summary>
    public byte[]? Document { get; set; }

    /// <summary>The PDF, sealed; null until it is issued.</summary>
    public byte[]? Pdf { get; set; }

    /// <summary>The XML, sealed; null until it is issued.</summary>
    public byte[]? Xml { get; set; }
}

/// <summary>Where the numbers of a kind of document stand.</summary>
public sealed class InvoiceCounterRow
{
    /// <summary>Of which documents.</summary>
    public required InvoiceDocumentKind Kind { get; init; }

    /// <summary>The number of the first one; at least 1.</summary>
    public required long First { get; set; }

    /// <summary>The last number that was taken; the one before the first until then.</summary>
    public required long Last { get; set; }
}
