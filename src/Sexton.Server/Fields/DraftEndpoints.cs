using System.Globalization;
using System.Security.Claims;
using System.Text.Json;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Checks;
using Sexton.Core.Register;
using Sexton.Core.Register.Types;
using Sexton.Core.Routing;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Hosting;
using Sexton.Server.Shop;
using Sexton.Server.Versions;

namespace Sexton.Server.Fields;

/// <summary>The draft of the register.</summary>
internal static class DraftEndpoints
{
    public static void MapDraft(this IEndpointRouteBuilder console)
    {
        console.MapGet("draft", ReadAsync).WithName("GetDraft");
        console.MapGet("draft/proposed-key", async (string label, DraftStore draft, CancellationToken cancel) =>
            new ProposedKey(await draft.ProposeKeyAsync(label, cancel))).WithName("ProposeKey");
        console.MapPost("draft/fields", AddAsync).WithName("AddField");
        console.MapPatch("draft/fields/{key}", ChangeAsync).WithName("ChangeField");
        console.MapDelete("draft/fields/{key}", RemoveAsync).WithName("RemoveField");
        console.MapPost("draft/undo", UndoAsync).WithName("UndoDraftChange");
        console.MapPost("draft/evaluate", PreviewAsync).WithName("EvaluateDraft");
    }

    private static async Task<DraftView> ReadAsync(DraftStore draft, CurrentRegister current, SextonDb db, FieldTypes types, CancellationToken cancel)
    {
        var rows = await draft.RowsAsync(cancel);
        var content = new RegisterContent([.. rows.Select(DraftStore.Parse)]);
        var last = await db.RegisterVersions.AsNoTracking().OrderByDescending(v => v.Number).FirstOrDefaultAsync(cancel);
        var index = await current.ProductsAsync(cancel);
        var since = await draft.PublishedSinceAsync(cancel);
        var changed = draft.Difference(last is null ? new RegisterContent([]) : Publisher.Parse(last), content, index).ToDictionary(c => c.Field, c => c.Kind, StringComparer.Ordinal);
        var products = await db.Products.AsNoTracking().OrderBy(p => p.Position).ToListAsync(cancel);
        return new DraftView(
            (last?.Number ?? 0) + 1,
            changed.Count,
            [.. rows.Select(row => FieldView.Of(row, types, since.TryGetValue(row.Key, out var n) ? n : null, changed.ContainsKey(row.Key)))],
            [.. Step.All.Select(s => new NamedKey(s.Key, s.Name))],
            [.. DestinationIndex.All.Select(d => new DestinationView(d.Key, d.Name, d.Phrase, d.Family, d.LongestLineText, d.TakesOrderAnswers))],
            [.. types.All.Select(t => new TypeView(t.Key, t.Name, [.. t.Settings]))],
            [.. products.Select(p => new ProductChoice(p.Code, JsonSerializer.Deserialize<LanguageMap>(p.Name)!.ToString(), p.Category))],
            [.. DraftChecks.Run(draft.Compile(content), index)]);
    }

    private static async Task<FieldView> AddAsync(AddFieldRequest request, ClaimsPrincipal user, DraftStore draft, FieldTypes types, CancellationToken cancel) =>
        FieldView.Of(await draft.AddAsync(request, Actor(user), cancel), types, null, changed: true);

    private static async Task<FieldView> ChangeAsync(
        string key, [FromHeader(Name = "If-Match")] string revision, ChangeFieldRequest request, ClaimsPrincipal user, DraftStore draft, FieldTypes types, CancellationToken cancel)
    {
        var row = await draft.ChangeAsync(key, Revision(revision), request.Setting, request.Value, Actor(user), cancel);
        return FieldView.Of(row, types, null, changed: true);
    }

    private static async Task<IResult> RemoveAsync(string key, [FromHeader(Name = "If-Match")] string revision, ClaimsPrincipal user, DraftStore draft, CancellationToken cancel)
    {
        await draft.RemoveAsync(key, Revision(revision), Actor(user), cancel);
        return TypedResults.NoContent();
    }

    private static async Task<UndoneView> UndoAsync(ClaimsPrincipal user, DraftStore draft, CancellationToken cancel)
    {
        var change = await draft.UndoAsync(Actor(user), cancel);
        return new UndoneView(change.Field, change.Setting);
    }

    private static async Task<EvaluationView> PreviewAsync(CartContent cart, DraftStore draft, CurrentRegister current, CancellationToken cancel)
    {
        var compiled = draft.Compile(await draft.ReadAsync(cancel));
        return EvaluationView.Of(Evaluator.Evaluate(compiled.Plan, await current.ProductsAsync(cancel), cart), cart.Language);
    }

    private static string Actor(ClaimsPrincipal user) => user.FindFirstValue(ClaimTypes.NameIdentifier)!;

    private static int Revision(string etag) =>
        int.TryParse(etag.Trim('"'), NumberStyles.None, CultureInfo.InvariantCulture, out var revision)
            ? revision
            : throw new ApiProblemException(StatusCodes.Status400BadRequest, "if_match", "Send the revision of the field in If-Match.");
}
