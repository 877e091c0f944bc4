using Microsoft.Net.Http.Headers;
using Sexton.Server.Settings;

namespace Sexton.Server.Speech;

/// <summary>
/// In which language of the shop a shopper is spoken to: that of the page that asks, else the one that was chosen, else the one that the browser likes best, else the
/// first. A page that was loaded before another was chosen in another window speaks one language to its end.
/// </summary>
internal sealed class ShopLanguage(ShopSettings settings)
{
    /// <summary>The header in which a page says which language it speaks.</summary>
    public const string Header = "Sexton-Language";

    private const string Cookie = "sexton_language";

    /// <summary>The language of whoever makes a request (BCP 47).</summary>
    public string Of(HttpContext http)
    {
        var spoken = settings.Now.Languages;
        foreach (var said in new[] { http.Request.Headers[Header].ToString(), http.Request.Cookies[Cookie] })
        {
            if (said is not null && spoken.Contains(said))
            {
                return said;
            }
        }

        var liked = http.Request.GetTypedHeaders().AcceptLanguage;
        return liked
                .Where(static l => l.Quality != 0)
                .OrderByDescending(static l => l.Quality ?? 1)
                .Select(l => spoken.FirstOrDefault(tag => IsIn(l, tag)))
                .FirstOrDefault(static tag => tag is not null)
            ?? spoken[0];
    }

    /// <summary>Keeps the language that a shopper chose.</summary>
    /// <returns>False where the shop does not speak it.</returns>
    public bool TryChoose(HttpContext http, string language)
    {
        if (!settings.Now.Languages.Contains(language))
        {
            return false;
        }

        http.Response.Cookies.Append(
            Cookie,
            language,
            new CookieOptions
            {
                HttpOnly = true,
                SameSite = Microsoft.AspNetCore.Http.SameSiteMode.Lax,
                Secure = http.Request.IsHttps,
                MaxAge = TimeSpan.FromDays(365),
                IsEssential = true,
            }
        );
        return true;
    }

    // "de-AT" is German to a shop that speaks "de".
    private static bool IsIn(StringWithQualityHeaderValue liked, string tag) =>
        liked.Value.Equals(tag, StringComparison.OrdinalIgnoreCase)
        || liked.Value.StartsWith(tag + "-", StringComparison.OrdinalIgnoreCase);
}
