namespace Sexton.Server.Speech;

/// <summary>Stage: in which language the shop speaks to whoever asks, and what its pages say.</summary>
internal static class NamespaceDoc;
