namespace Sexton.Destinations.Email;

/// <summary>Deliver: what all e-mails share: their form, how they are sent by SMTP, and how they are read back.</summary>
internal static class NamespaceDoc;
