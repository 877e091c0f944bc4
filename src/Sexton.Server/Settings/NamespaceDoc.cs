namespace Sexton.Server.Settings;

/// <summary>Every stage: what the shop itself sets beside its register. In whose name it writes, how long things are kept, who answers for what.</summary>
internal static class NamespaceDoc;
