using Sexton.Core.Sentences;
using Sexton.Server.Common;
using Sexton.Server.Settings;

namespace Sexton.Server.Speech;

/// <summary>Chooses the language of the shop, and says which there are.</summary>
internal static class LanguageEndpoint
{
    public static void MapLanguages(this IEndpointRouteBuilder shop) =>
        shop.MapGet("languages", static () => Wording.Languages.Select(static l => new LanguageView(l.Tag, l.Name)))
            .WithName("GetLanguages");

    public static void MapLanguage(this IEndpointRouteBuilder shop) =>
        shop.MapPut(
                "language",
                IResult (LanguageRequest request, HttpContext http, ShopLanguage languages, ShopSettings settings) =>
                    languages.TryChoose(http, request.Language)
                        ? TypedResults.NoContent()
                        : throw ApiProblemException.Said(
                            StatusCodes.Status422UnprocessableEntity,
                            "no_such_language",
                            "no_such_language",
                            request.Language,
                            string.Join(", ", settings.Now.Languages)
                        )
            )
            .WithName("ChooseLanguage");
}

/// <summary>Chooses a language.</summary>
/// <param name="Language">Its tag (BCP 47).</param>
internal sealed record LanguageRequest(string Language);
