namespace Sexton.Core.Sentences;

/// <summary>Place: every sentence that shoppers read and that nobody writes at a field, with its key, its defaults and what the shop says instead.</summary>
internal static class NamespaceDoc;
