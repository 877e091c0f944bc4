namespace Sexton.Server.Accounts;

/// <summary>Every stage: the people of the shop, and signing in.</summary>
internal static class NamespaceDoc;
