namespace Sexton.Core.Register.Settings;

/// <summary>Define: the settings of a field, which say of themselves how they are read, written and told.</summary>
internal static class NamespaceDoc;
