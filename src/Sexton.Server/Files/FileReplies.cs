using Microsoft.EntityFrameworkCore;
using Sexton.Core.Files;
using Sexton.Data;
using Sexton.Data.Files;
using Sexton.Data.Rows;
using Sexton.Server.Common;

namespace Sexton.Server.Files;

/// <summary>Hands files out to those who may see them; whether they may is found out before.</summary>
internal sealed class FileReplies(SextonDb db, FileStore store)
{
    // What stands for a file that is no picture: a sheet with a folded corner.
    private const string Sheet =
        """<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 64 64"><path d="M16 6h22l12 12v40H16z" fill="#fff" stroke="#6b6a5f" stroke-width="2"/><path d="M38 6v12h12" fill="none" stroke="#6b6a5f" stroke-width="2"/><path d="M23 30h20M23 38h20M23 46h13" stroke="#a3a196" stroke-width="2"/></svg>""";

    /// <summary>A file of an order, by its hash.</summary>
    public async Task<IResult> OfOrderAsync(Guid order, string sha256, CancellationToken cancel) =>
        await ContentAsync(await FindAsync(order, sha256, cancel), cancel);

    /// <summary>The small picture of a file of an order.</summary>
    public async Task<IResult> SmallOfOrderAsync(Guid order, string sha256, HttpResponse response, CancellationToken cancel) =>
        Small(await FindAsync(order, sha256, cancel), response);

    /// <summary>
    /// The bytes of a file. Always to be saved and never opened in place: a stranger made it, and in place it could run in our name.
    /// </summary>
    public async Task<IResult> ContentAsync(FileRow file, CancellationToken cancel)
    {
        var stream = await store.OpenAsync(file, cancel);
        return TypedResults.File(
            stream,
            FileKinds.Find(file.Kind)?.MediaType ?? "application/octet-stream",
            file.Name,
            enableRangeProcessing: true
        );
    }

    /// <summary>The small picture of a file, or a drawing of a sheet of paper.</summary>
    public IResult Small(FileRow file, HttpResponse response)
    {
        response.Headers.CacheControl = "private, max-age=3600";
        return store.OpenThumbnail(file) is { } small ? TypedResults.Bytes(small, "image/jpeg") : TypedResults.Text(Sheet, "image/svg+xml");
    }

    private async Task<FileRow> FindAsync(Guid order, string sha256, CancellationToken cancel)
    {
        var hash = HashText.Bytes(sha256);
        return await db
                .Files.AsNoTracking()
                .Where(f => db.OrderFiles.Any(o => o.OrderId == order && o.FileId == f.Id) && f.Sha256 == hash)
                .OrderBy(f => f.Id)
                .FirstOrDefaultAsync(cancel)
            ?? throw ApiProblemException.Said(StatusCodes.Status404NotFound, "not_found", "no_such_file");
    }
}
