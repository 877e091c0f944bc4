using System.Security.Claims;
using Microsoft.AspNetCore.Mvc;
using Sexton.Core.Sentences;
using Sexton.Server.Accounts;
using Sexton.Server.Common;
using Sexton.Server.Speech;

namespace Sexton.Server.Fields;

/// <summary>The texts of the draft in all languages.</summary>
internal static class DraftTextEndpoints
{
    public static void MapDraftTexts(this IEndpointRouteBuilder console)
    {
        console.MapGet("draft/texts", (DraftTexts texts, CancellationToken cancel) => texts.ReadAsync(cancel)).WithName("GetDraftTexts");
        console
            .MapPatch(
                "draft/texts",
                async Task<IResult> (ChangeTextRequest request, ClaimsPrincipal user, DraftTexts texts, CancellationToken cancel) =>
                {
                    await texts.ChangeAsync(request, Actor.Of(user), cancel);
                    return TypedResults.NoContent();
                }
            )
            .WithName("ChangeDraftText");
        console
            .MapGet(
                "draft/texts/csv",
                async (DraftTexts texts, CancellationToken cancel) =>
                    TypedResults.File(await texts.WriteCsvAsync(cancel), CsvTable.MediaType + "; charset=utf-8", "texts.csv")
            )
            .WithName("GetDraftTextsAsCsv");
        console
            .MapPost(
                "draft/texts/csv/difference",
                (TextsRequest request, DraftTexts texts, CancellationToken cancel) => texts.ReadCsvAsync(request.Csv, cancel)
            )
            .WithName("CompareDraftTexts");
        console
            .MapPost(
                "draft/texts/csv",
                async Task<IResult> (TakeTextsRequest request, ClaimsPrincipal user, DraftTexts texts, CancellationToken cancel) =>
                {
                    await texts.TakeCsvAsync(request.Csv, request.Seen, Actor.Of(user), cancel);
                    return TypedResults.NoContent();
                }
            )
            .WithName("TakeDraftTexts");
        console
            .MapGet(
                "draft/sentences",
                async ([FromQuery] string language, DraftStore draft, CancellationToken cancel) =>
                    new Wording((await draft.ReadAsync(cancel)).Wording).In(language, WordedPages.Groups)
            )
            .WithName("GetDraftSentences");
    }
}

/// <summary>A table of texts.</summary>
/// <param name="Csv">The table as CSV (RFC 4180).</param>
internal sealed record TextsRequest(string Csv);

/// <summary>A table of texts to be taken.</summary>
/// <param name="Csv">The table as CSV (RFC 4180).</param>
/// <param name="Seen">The digest of the changes that were shown.</param>
internal sealed record TakeTextsRequest(string Csv, string Seen);
