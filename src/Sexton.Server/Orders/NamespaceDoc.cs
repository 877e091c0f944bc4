namespace Sexton.Server.Orders;

/// <summary>Confirm: the pages of an order, its trail, and its evidence.</summary>
internal static class NamespaceDoc;
