namespace Sexton.Core.Orders;

/// <summary>Place: an order as it stood when it was placed.</summary>
internal static class NamespaceDoc;
