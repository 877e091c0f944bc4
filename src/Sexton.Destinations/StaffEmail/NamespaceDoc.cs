namespace Sexton.Destinations.StaffEmail;

/// <summary>Deliver: an e-mail to people of the shop.</summary>
internal static class NamespaceDoc;
