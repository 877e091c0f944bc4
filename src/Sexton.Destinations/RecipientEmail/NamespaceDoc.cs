namespace Sexton.Destinations.RecipientEmail;

/// <summary>Deliver: an e-mail to whoever an answer names.</summary>
internal static class NamespaceDoc;
