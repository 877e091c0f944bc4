namespace Sexton.Core.Types;

/// <summary>Check: the kinds of answer, each with its rule: how an answer is read, refused, and written.</summary>
internal static class NamespaceDoc;
