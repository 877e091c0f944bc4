using Sexton.Core.Sentences;
using Sexton.Core.Values;
using Sexton.Server.Common;
using Sexton.Server.Versions;

namespace Sexton.Server.Speech;

/// <summary>Says refusals in the words of the version in force. Nothing is asked for it: what is not known here is said as shipped, since the database may be what is away.</summary>
internal sealed class ShopSpeech(CurrentNumbers numbers, RegisterCache cache, ShopLanguage languages) : IShopSpeech
{
    /// <inheritdoc/>
    public string Say(HttpContext http, string key, params ReadOnlySpan<string?> parts) =>
        http.Request.Path.StartsWithSegments("/api/console", StringComparison.OrdinalIgnoreCase)
            ? Wording.Usual.Say(key, LanguageMap.Fallback, parts)
            : Now.Say(key, languages.Of(http), parts);

    private Wording Now =>
        numbers.Last is { } last && cache.Versions.TryGetValue(last.Version, out var version) ? version.Plan.Wording : Wording.Usual;
}
