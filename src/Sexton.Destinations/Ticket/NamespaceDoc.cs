namespace Sexton.Destinations.Ticket;

/// <summary>Deliver: the ticket of a unit: all that it captured, with a code that names it.</summary>
internal static class NamespaceDoc;
