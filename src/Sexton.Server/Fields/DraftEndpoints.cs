using System.Globalization;
using System.Security.Claims;
using Microsoft.AspNetCore.Mvc;
using Sexton.Core.Cart;
using Sexton.Core.Register;
using Sexton.Data.Placing;
using Sexton.Data.Rows;
using Sexton.Server.Accounts;
using Sexton.Server.Common;
using Sexton.Server.Versions;

namespace Sexton.Server.Fields;

/// <summary>The draft of the register.</summary>
internal static class DraftEndpoints
{
    public static void MapDraft(this IEndpointRouteBuilder console)
    {
        console
            .MapGet(
                "draft",
                ([FromQuery] string? find, [FromQuery] string[]? product, DraftReader reader, CancellationToken cancel) =>
                    reader.ReadAsync(new ProductsLookedFor(find ?? "", product ?? []), cancel)
            )
            .WithName("GetDraft");
        console
            .MapGet(
                "draft/proposed-key",
                async (string label, DraftStore draft, CancellationToken cancel) =>
                    new ProposedKey(await draft.ProposeKeyAsync(label, cancel))
            )
            .WithName("ProposeKey");
        console
            .MapPost(
                "draft/fields",
                async (AddFieldRequest request, ClaimsPrincipal user, DraftStore draft, CancellationToken cancel) =>
                    View(await draft.AddFieldAsync(request, Actor.Of(user), cancel))
            )
            .WithName("AddField");
        console
            .MapPost(
                "draft/starter-sets",
                async (AddSetRequest request, ClaimsPrincipal user, DraftStore draft, CancellationToken cancel) =>
                    new AddedSet(await draft.AddSetAsync(request, Actor.Of(user), cancel))
            )
            .WithName("AddStarterSet");
        console
            .MapPost(
                "draft/sections",
                async (AddSectionRequest request, ClaimsPrincipal user, DraftStore draft, CancellationToken cancel) =>
                    View(await draft.AddSectionAsync(request, Actor.Of(user), cancel))
            )
            .WithName("AddSection");
        console
            .MapPost(
                "draft/steps",
                async (AddStepRequest request, ClaimsPrincipal user, DraftStore draft, CancellationToken cancel) =>
                    View(await draft.AddStepAsync(request, Actor.Of(user), cancel))
            )
            .WithName("AddStep");
        console
            .MapPost(
                "draft/destinations",
                async (AddDestinationRequest request, ClaimsPrincipal user, DraftStore draft, CancellationToken cancel) =>
                    View(await draft.AddDestinationAsync(request, Actor.Of(user), cancel))
            )
            .WithName("AddDestination");
        console.MapPatch("draft/items/{key}", ChangeAsync).WithName("ChangeDraft");
        console.MapDelete("draft/items/{key}", RemoveAsync).WithName("RemoveFromDraft");
        console.MapPost("draft/items/{key}/as-in-force", PutBackAsync).WithName("PutBackDraft");
        console.MapPost("draft/items/{key}/as-in-force/clause", PutClauseBackAsync).WithName("PutClauseBack");
        console.MapPost("draft/undo", UndoAsync).WithName("UndoDraftChange");
        console.MapPut("draft/accepted", AcceptAsync).WithName("AcceptProblem");
        console.MapDelete("draft/accepted", WithdrawAsync).WithName("WithdrawAcceptance");
        console.MapPut("stock", CountAsync).WithName("CountStock");
        console
            .MapPost(
                "draft/preview",
                (CartContent cart, string? explain, DraftPreview preview, CancellationToken cancel) =>
                    preview.ShowAsync(cart, explain, cancel)
            )
            .WithName("PreviewDraft");
        console
            .MapPost(
                "draft/destinations/{key}/trial",
                (string key, SentPreviewRequest request, DestinationPreview preview, CancellationToken cancel) =>
                    preview.TryAsync(key, request, cancel)
            )
            .WithName("TryDestination");
        console
            .MapPost(
                "draft/destinations/{key}/preview",
                (string key, SentPreviewRequest request, ClaimsPrincipal user, DestinationPreview preview, CancellationToken cancel) =>
                    preview.ShowAsync(key, request, Actor.Of(user), cancel)
            )
            .WithName("PreviewDestination");
    }

    private static async Task<ChangedView> ChangeAsync(
        string key,
        [FromHeader(Name = "If-Match")] string revision,
        ChangeDraftRequest request,
        ClaimsPrincipal user,
        DraftStore draft,
        CancellationToken cancel
    ) => View(await draft.ChangeAsync(key, Revision(revision), request.Setting, request.Value, Actor.Of(user), cancel));

    private static async Task<IResult> RemoveAsync(
        string key,
        [FromHeader(Name = "If-Match")] string revision,
        ClaimsPrincipal user,
        DraftStore draft,
        CancellationToken cancel
    )
    {
        await draft.RemoveAsync(key, Revision(revision), Actor.Of(user), cancel);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> PutBackAsync(
        string key,
        [FromHeader(Name = "If-Match")] string revision,
        ClaimsPrincipal user,
        DraftStore draft,
        CurrentRegister current,
        CancellationToken cancel
    )
    {
        var (version, products) = await current.GetAsync(cancel);
        await draft.PutBackAsync(key, Revision(revision), version.Plan.Content, products, Actor.Of(user), cancel);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> PutClauseBackAsync(
        string key,
        [FromHeader(Name = "If-Match")] string revision,
        ClauseChange clause,
        ClaimsPrincipal user,
        DraftStore draft,
        CurrentRegister current,
        CancellationToken cancel
    )
    {
        var (version, products) = await current.GetAsync(cancel);
        await draft.PutBackAsync(key, Revision(revision), clause, version.Plan.Content, products, Actor.Of(user), cancel);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> AcceptAsync(
        AcceptRequest request,
        ClaimsPrincipal user,
        DraftReader reader,
        AcceptedProblems accepted,
        CancellationToken cancel
    )
    {
        await accepted.AcceptAsync(request, await reader.ProblemsAsync(cancel), Actor.Of(user), cancel);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> WithdrawAsync(
        string code,
        string field,
        string setting,
        AcceptedProblems accepted,
        CancellationToken cancel
    )
    {
        await accepted.WithdrawAsync(code, field, setting, cancel);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> CountAsync(
        CountRequest request,
        ClaimsPrincipal user,
        StockReservations stock,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        if (request.Item.Length is 0 or > 100 || request.OnHand is < 0 or > 1_000_000_000)
        {
            throw ApiProblemException.Unprocessable("count_refused", "Give a whole number from 0.");
        }

        return await stock.CountAsync(request.Item, request.OnHand, Actor.Of(user).Id, clock.GetUtcNow(), cancel) is { } held
            ? throw ApiProblemException.Conflict("held", $"{held} of it are held by payments under way. Count it again in a moment.")
            : TypedResults.NoContent();
    }

    private static async Task<UndoneView> UndoAsync(ClaimsPrincipal user, DraftStore draft, CancellationToken cancel)
    {
        var change = await draft.UndoAsync(Actor.Of(user), cancel);
        return new UndoneView(change.Field, change.Setting);
    }

    private static ChangedView View(DraftItemRow row) => new(row.Key, row.Revision);

    private static int Revision(string etag) =>
        int.TryParse(etag.Trim('"'), NumberStyles.None, CultureInfo.InvariantCulture, out var revision)
            ? revision
            : throw new ApiProblemException(StatusCodes.Status400BadRequest, "if_match", "Send the revision in If-Match.");
}
