using System.Collections.Immutable;
using System.Text;
using System.Text.Json;
using Npgsql;
using Sexton.Core.Sentences;
using Sexton.Core.Values;
using Sexton.Server.Common;
using Sexton.Server.Settings;
using Sexton.Server.Versions;

namespace Sexton.Server.Speech;

/// <summary>Serves the pages with what they say in them: a page has its sentences before it has anything else, also while nothing else can be asked.</summary>
internal sealed class WordedPages(IWebHostEnvironment host, SextonOptions options, ShopLanguage languages, ShopSettings settings)
{
    /// <summary>What the keys of the sentences begin with that pages say.</summary>
    public static readonly ImmutableArray<string> Groups = ["form.", "shop.", "price."];

    // Where a page keeps what it says: data, and no script.
    private const string Place = "id=\"wording\">",
        Html = "<html lang=\"en\">",
        Title = "<title>Shop</title>";

    /// <summary>A page of the shop, in the language of whoever asks.</summary>
    public async Task<IResult> ShopAsync(HttpContext http, CurrentRegister current, CancellationToken cancel) =>
        Page("shop/index.html", languages.Of(http), await WordingAsync(current, cancel));

    /// <summary>The page of the console. It speaks English; what it shows of the shop says it in the shop's words.</summary>
    public IResult Console() => Page("console/index.html", LanguageMap.Fallback, Wording.Usual);

    private IResult Page(string name, string language, Wording wording)
    {
        var file = host.WebRootFileProvider.GetFileInfo(name);
        if (!file.Exists)
        {
            throw ApiProblemException.Said(StatusCodes.Status404NotFound, "not_found", "not_found");
        }

        using var reader = new StreamReader(file.CreateReadStream(), Encoding.UTF8);
        var said = new WordingView(
            options.ShopName,
            language,
            [.. Wording.Languages.Where(l => settings.Now.Languages.Contains(l.Tag)).Select(static l => new LanguageView(l.Tag, l.Name))],
            wording.In(language, Groups)
        );

        // The encoder leaves nothing that could end the element.
        var json = JsonSerializer.Serialize(said, PageJson);
        var page = reader
            .ReadToEnd()
            .Replace(Html, $"<html lang=\"{language}\">", StringComparison.Ordinal)
            .Replace(Title, $"<title>{System.Net.WebUtility.HtmlEncode(options.ShopName)}</title>", StringComparison.Ordinal)
            .Replace(Place, Place + json, StringComparison.Ordinal);
        return new NotKept(Results.Text(page, "text/html; charset=utf-8"));
    }

    private static readonly JsonSerializerOptions PageJson = new(JsonSerializerDefaults.Web)
    {
        PropertyNamingPolicy = JsonNamingPolicy.SnakeCaseLower,
    };

    private static async Task<Wording> WordingAsync(CurrentRegister current, CancellationToken cancel)
    {
        try
        {
            return (await current.ToldLastAsync(cancel)).Version.Plan.Wording;
        }
        catch (Exception e)
            when (e is ApiProblemException or NpgsqlException or InvalidOperationException { InnerException: NpgsqlException })
        {
            return Wording.Usual;
        }
    }

    // It says other things when the shop does, and to whoever speaks another language.
    private sealed class NotKept(IResult page) : IResult
    {
        public Task ExecuteAsync(HttpContext httpContext)
        {
            httpContext.Response.Headers.CacheControl = "no-cache";
            httpContext.Response.Headers.Vary = "Cookie, Accept-Language";
            return page.ExecuteAsync(httpContext);
        }
    }
}

/// <summary>What a page says.</summary>
/// <param name="Shop">The name of the shop.</param>
/// <param name="Language">The language of the page (BCP 47).</param>
/// <param name="Languages">The languages that the shop speaks.</param>
/// <param name="Sentences">The sentences, by key.</param>
internal sealed record WordingView(
    string Shop,
    string Language,
    IReadOnlyList<LanguageView> Languages,
    IReadOnlyDictionary<string, string> Sentences
);

/// <summary>A language that the shop speaks, or could.</summary>
/// <param name="Tag">Its tag (BCP 47).</param>
/// <param name="Name">What it calls itself.</param>
internal sealed record LanguageView(string Tag, string Name);
