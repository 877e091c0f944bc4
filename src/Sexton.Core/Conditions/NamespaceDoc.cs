namespace Sexton.Core.Conditions;

/// <summary>Ask: tests over facts: what is asked, must be answered, costs something or goes somewhere only when they hold.</summary>
internal static class NamespaceDoc;
