using System.Security.Claims;
using System.Text.Json;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Catalogue.Brought;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Accounts;
using Sexton.Server.Common;
using Sexton.Server.Versions;

namespace Sexton.Server.Products;

/// <summary>Files of products, out and in: what one would change is looked at before it is taken.</summary>
internal static class ProductImportEndpoints
{
    private const string Json = "application/json";
    private const int LongestName = 200;

    public static void MapProductImports(this IEndpointRouteBuilder register)
    {
        register.MapGet("products/csv", WriteCsvAsync).WithName("GetProductsAsCsv").Produces<byte[]>(contentType: CsvTable.MediaType);
        register.MapGet("products/json", WriteJsonAsync).WithName("GetProductsAsJson").Produces<byte[]>(contentType: Json);
        register.MapGet("products/imports", LastAsync).WithName("GetLastProductImport");
        register
            .MapPost("products/imports", BringAsync)
            .WithName("BringInProducts")
            .WithMetadata(new RequestSizeLimitAttribute(ProductImports.MostBytes));
        register.MapGet("products/imports/{id:guid}", FollowAsync).WithName("FollowProductImport");
        register.MapPost("products/imports/{id:guid}/take", TakeAsync).WithName("TakeProductImport");
        register.MapDelete("products/imports/{id:guid}", LeaveAsync).WithName("LeaveProductImport");
    }

    private static async Task<IResult> WriteCsvAsync(CurrentRegister current, CancellationToken cancel)
    {
        var known = await current.ProductsAsync(cancel);
        var csv = await CsvTable.WriteAsync(new ProductTable(known.Currency).Write(known.All));
        return TypedResults.File(csv, CsvTable.MediaType + "; charset=utf-8", "products.csv");
    }

    private static async Task<IResult> WriteJsonAsync(CurrentRegister current, CancellationToken cancel)
    {
        var known = await current.ProductsAsync(cancel);
        using var list = new MemoryStream();
        ProductList.Write(list, known.All);
        return TypedResults.File(list.ToArray(), Json, "products.json");
    }

    private static async Task<IResult> LastAsync(ClaimsPrincipal user, SextonDb db, TimeProvider clock, CancellationToken cancel)
    {
        var account = Actor.Of(user).Id;
        var last = await db
            .ProductImports.AsNoTracking()
            .Where(i => i.Account == account && i.State != ProductImportState.Taken)
            .OrderByDescending(i => i.At)
            .FirstOrDefaultAsync(cancel);
        return last is null ? TypedResults.NoContent() : TypedResults.Ok(ViewOf(last, clock.GetUtcNow()));
    }

    private static async Task<ProductImportView> BringAsync(
        [FromQuery] string name,
        HttpRequest request,
        ClaimsPrincipal user,
        SextonDb db,
        ProductImports imports,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var type = request.ContentType?.Split(';')[0].Trim();
        if (type is not (CsvTable.MediaType or Json))
        {
            throw new ApiProblemException(
                StatusCodes.Status415UnsupportedMediaType,
                "media_type",
                $"Products come as CSV or as JSON. Send {CsvTable.MediaType} or {Json}."
            );
        }

        if (!CanonicalText.TryMake(name, out var called) || !Graphemes.FitIn(called, LongestName))
        {
            throw ApiProblemException.Unprocessable("name_refused", $"The name of a file has at most {LongestName} characters.");
        }

        using var file = new MemoryStream();
        await request.Body.CopyToAsync(file, cancel);
        var (now, account) = (clock.GetUtcNow(), Actor.Of(user).Id);
        var row = new ProductImportRow
        {
            Id = Guid.NewGuid(),
            Account = account,
            Name = called,
            IsJson = type == Json,
            File = file.ToArray(),
            At = now,
            State = ProductImportState.Reading,
            BeatAt = now,
        };

        // One at a time for each person: what was brought in before and is not being taken is left.
        var silentSince = now - Beats.LongestSilence;
        await db
            .ProductImports.Where(i =>
                i.Account == account && (i.State != ProductImportState.Taking || i.Failed != null || i.BeatAt < silentSince)
            )
            .ExecuteDeleteAsync(cancel);
        db.ProductImports.Add(row);
        await db.SaveChangesAsync(cancel);
        imports.Read(row.Id);
        return ViewOf(row, now);
    }

    private static async Task<ProductImportView> FollowAsync(
        Guid id,
        ClaimsPrincipal user,
        SextonDb db,
        TimeProvider clock,
        CancellationToken cancel
    ) => ViewOf(await FindAsync(id, user, db, cancel), clock.GetUtcNow());

    private static async Task<ProductImportView> TakeAsync(
        Guid id,
        TakeProductsRequest request,
        ClaimsPrincipal user,
        SextonDb db,
        ProductImports imports,
        ShopRecord record,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var row = await FindAsync(id, user, db, cancel);
        var (now, digest) = (clock.GetUtcNow(), request.Seen);
        if (OutcomeOf(row) is not { FaultCount: 0 } outcome)
        {
            throw ApiProblemException.Unprocessable(
                "products_refused",
                "Something keeps these products from being taken. Mend the file first."
            );
        }

        // Whoever says so twice does it once.
        var begun = await db
            .ProductImports.Where(i => i.Id == id && i.State == ProductImportState.Read && i.Digest == digest)
            .ExecuteUpdateAsync(
                set =>
                    set.SetProperty(i => i.State, ProductImportState.Taking)
                        .SetProperty(i => i.Done, 0)
                        .SetProperty(i => i.Failed, (string?)null)
                        .SetProperty(i => i.BeatAt, now),
                cancel
            );
        if (begun == 0)
        {
            throw ApiProblemException.Conflict(
                "changed_since",
                "That is being taken already, or was changed since it was shown. Look again."
            );
        }

        record.Write(user, $"put in {row.Name}: {outcome.New} new products, {outcome.Changed} changed");
        await db.SaveChangesAsync(cancel);
        imports.Take(id);
        return ViewOf(await FindAsync(id, user, db, cancel), now);
    }

    private static async Task<IResult> LeaveAsync(Guid id, ClaimsPrincipal user, SextonDb db, CancellationToken cancel)
    {
        var account = Actor.Of(user).Id;
        await db.ProductImports.Where(i => i.Id == id && i.Account == account).ExecuteDeleteAsync(cancel);
        return TypedResults.NoContent();
    }

    // Nobody else's.
    private static async Task<ProductImportRow> FindAsync(Guid id, ClaimsPrincipal user, SextonDb db, CancellationToken cancel)
    {
        var account = Actor.Of(user).Id;
        return await db.ProductImports.AsNoTracking().SingleOrDefaultAsync(i => i.Id == id && i.Account == account, cancel)
            ?? throw ApiProblemException.NotFound("There is no such file, or it is not kept any more. Bring it in again.");
    }

    private static ProductImportOutcome? OutcomeOf(ProductImportRow row) =>
        row.Outcome is null ? null : JsonSerializer.Deserialize<ProductImportOutcome>(row.Outcome, DocumentJson.Options);

    private static ProductImportView ViewOf(ProductImportRow row, DateTimeOffset now) =>
        new(
            row.Id,
            row.Name,
            row.IsJson,
            row.State,
            row.Count,
            row.Done,
            OutcomeOf(row),
            row.Failed
                ?? (
                    row.State is ProductImportState.Reading or ProductImportState.Taking && now - row.BeatAt > Beats.LongestSilence
                        ? "The server that was at it has stopped, and nothing was put in. Bring it in again."
                        : null
                )
        );
}

/// <summary>Takes a file that was read.</summary>
/// <param name="Seen">The digest of the changes that were shown.</param>
internal sealed record TakeProductsRequest(string Seen);

/// <summary>How far a file of products is.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Name">The name of the file.</param>
/// <param name="IsJson">Whether it is JSON, of which faults name the product and not the row.</param>
/// <param name="State">How far it is.</param>
/// <param name="Count">How many products there are to read, or to put in; 0 while they are not counted.</param>
/// <param name="Done">How many of them were.</param>
/// <param name="Outcome">What it would change; null before it was read.</param>
/// <param name="Failed">Why it goes no further, in a sentence; null where nothing went wrong.</param>
internal sealed record ProductImportView(
    Guid Id,
    string Name,
    bool IsJson,
    ProductImportState State,
    int Count,
    int Done,
    ProductImportOutcome? Outcome,
    string? Failed
);
