namespace Sexton.Server.Speech;

/// <summary>Ask: in which language the shop speaks to whoever asks, and what its pages say.</summary>
internal static class NamespaceDoc;
