namespace Sexton.Server.Common;

/// <summary>Says what the shop says, to whoever asks.</summary>
internal interface IShopSpeech
{
    /// <summary>A sentence in the language of whoever asks, filled in; to staff it is said in English, as it is shipped.</summary>
    /// <param name="http">The request.</param>
    /// <param name="key">The key of the sentence.</param>
    /// <param name="parts">What it is filled in with.</param>
    string Say(HttpContext http, string key, params ReadOnlySpan<string?> parts);
}
