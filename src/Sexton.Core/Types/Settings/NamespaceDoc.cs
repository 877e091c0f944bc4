namespace Sexton.Core.Types.Settings;

/// <summary>Define: the settings that kinds of answer and kinds of destination describe themselves with.</summary>
internal static class NamespaceDoc;
