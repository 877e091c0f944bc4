namespace Sexton.Core.Register.Texts;

/// <summary>Define: every text of a register that people read, in all languages, and how to change it.</summary>
internal static class NamespaceDoc;
