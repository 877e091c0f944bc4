namespace Sexton.Destinations.PackingSlip;

/// <summary>Deliver: the packing slip: what is in the parcel, with what the card says to be cut off.</summary>
internal static class NamespaceDoc;
