namespace Sexton.Core.Checks.PossibleCodes;

/// <summary>Compile: whether two things that are sold can come to share an item code.</summary>
internal static class NamespaceDoc;
