namespace Sexton.Destinations.ShopperEmail;

/// <summary>Deliver: the e-mail to the shopper, by SMTP.</summary>
internal static class NamespaceDoc;
