namespace Sexton.Destinations.ParcelCard;

/// <summary>Deliver: the card in the parcel: what one person says to another.</summary>
internal static class NamespaceDoc;
