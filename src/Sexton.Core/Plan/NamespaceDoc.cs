namespace Sexton.Core.Plan;

/// <summary>Compile: a register bound to its kinds, in the order in which it is asked.</summary>
internal static class NamespaceDoc;
