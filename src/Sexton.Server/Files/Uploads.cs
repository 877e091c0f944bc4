using System.Buffers;
using System.Globalization;
using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Files;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Files;
using Sexton.Data.Rows;
using Sexton.Server.Carts;
using Sexton.Server.Common;
using Sexton.Server.Versions;

namespace Sexton.Server.Files;

/// <summary>Takes the files of shoppers in, piece by piece, and looks at each once all of it is there.</summary>
internal sealed class Uploads(
    SextonDb db,
    FileStore store,
    CartStore carts,
    CurrentRegister current,
    PictureMaker pictures,
    SextonOptions options,
    TimeProvider clock
)
{
    /// <summary>The greatest size of any file, in bytes.</summary>
    public const long Largest = FileLimits.MostMegabytes * 1_000_000L;

    // What people do not reach, and a program gone astray does.
    private const int MostFiles = 200;

    /// <summary>Begins an upload into the cart of the shopper.</summary>
    /// <param name="name">The name of the file.</param>
    /// <param name="field">The key of the field that it is for.</param>
    /// <param name="size">How many bytes it will have.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<FileRow> BeginAsync(string name, string field, long size, CancellationToken cancel)
    {
        var (version, _) = await current.GetAsync(cancel);
        var clean = FileNames.Clean(name);
        if (version.Plan.Find(field)?.Rule is not { HoldsFiles: true } rule)
        {
            throw ApiProblemException.Said(StatusCodes.Status422UnprocessableEntity, "no_files_here", "no_files_here", field);
        }

        if (size <= 0)
        {
            throw ApiProblemException.Said(StatusCodes.Status422UnprocessableEntity, "file_empty", "file_empty", clean);
        }

        if (size > rule.LargestFile)
        {
            throw ApiProblemException.Said(
                StatusCodes.Status413PayloadTooLarge,
                "file_too_large",
                "file_too_large",
                clean,
                FileValue.SizeText(rule.LargestFile, LanguageMap.Fallback)
            );
        }

        var cart = await carts.FindOrCreateAsync(cancel);
        var held = await db
            .Files.Where(f => f.CartId == cart.Id)
            .GroupBy(static f => f.CartId)
            .Select(static g => new { Count = g.Count(), Size = g.Sum(static f => f.Announced) })
            .FirstOrDefaultAsync(cancel);
        if (held?.Count >= MostFiles || (held?.Size ?? 0) + size > options.CartMegabytes * 1_000_000L)
        {
            throw ApiProblemException.Said(StatusCodes.Status413PayloadTooLarge, "cart_full_of_files", "cart_full_of_files", clean);
        }

        var file = new FileRow
        {
            Id = Guid.NewGuid(),
            CartId = cart.Id,
            Key = store.MakeKey(),
            Name = clean,
            Announced = size,
            Received = 0,
            Rewritten = rule.RewritesPictures,
            CreatedAt = clock.GetUtcNow(),
        };
        db.Files.Add(file);
        await db.SaveChangesAsync(cancel);
        return file;
    }

    /// <summary>A file of one of the shopper's carts.</summary>
    public async Task<FileRow> FindAsync(string id, CancellationToken cancel)
    {
        var own = carts.Ids;
        return (
                Guid.TryParse(id, out var file)
                    ? await db.Files.FirstOrDefaultAsync(f => f.Id == file && own.Contains(f.CartId), cancel)
                    : null
            ) ?? throw Gone();
    }

    /// <summary>A kept file of one of the shopper's carts, by its hash.</summary>
    public async Task<FileRow> FindByHashAsync(string sha256, CancellationToken cancel)
    {
        var (own, hash) = (carts.Ids, HashText.Bytes(sha256));
        return await db
                .Files.AsNoTracking()
                .Where(f => own.Contains(f.CartId) && f.Sha256 == hash)
                .OrderBy(f => f.Id)
                .FirstOrDefaultAsync(cancel)
            ?? throw Gone();
    }

    /// <summary>
    /// Takes in what a request brings from an offset on. What came before a connection was lost is kept, so that the rest can follow.
    /// </summary>
    /// <exception cref="ApiProblemException">Another request for the same file was quicker, or more comes than was announced.</exception>
    public async Task ReceiveAsync(FileRow file, long offset, Stream body, CancellationToken cancel)
    {
        if (offset != file.Received)
        {
            throw NotThere(file);
        }

        using var hash = offset == 0 ? IncrementalHash.CreateHash(HashAlgorithmName.SHA256) : null;

        // While one piece is written, the next is received and reckoned.
        var (piece, other) = (ArrayPool<byte>.Shared.Rent(FileStore.PieceSize), ArrayPool<byte>.Shared.Rent(FileStore.PieceSize));
        var written = Task.FromResult(true);
        try
        {
            for (var more = true; more; )
            {
                (var filled, more) = await FillAsync(body, piece.AsMemory(0, FileStore.PieceSize), cancel);
                if (file.Received + filled > file.Announced)
                {
                    throw ApiProblemException.Said(
                        StatusCodes.Status413PayloadTooLarge,
                        "more_than_announced",
                        "more_than_announced",
                        file.Announced.ToString(CultureInfo.InvariantCulture)
                    );
                }

                if (!await written)
                {
                    break;
                }

                if (filled > 0)
                {
                    written = store.AppendAsync(file, file.Received, piece.AsMemory(0, filled), CancellationToken.None);
                    hash?.AppendData(piece, 0, filled);
                    file.Received += filled;
                    (piece, other) = (other, piece);
                }
            }
        }
        finally
        {
            // Whatever went wrong, the database is not left in the middle of a piece.
            await ((Task)written).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            ArrayPool<byte>.Shared.Return(piece);
            ArrayPool<byte>.Shared.Return(other);
        }

        if (!await written)
        {
            throw NotThere(file);
        }

        if (file.Received == file.Announced)
        {
            await FinishAsync(file, hash?.GetHashAndReset(), CancellationToken.None);
        }
    }

    /// <summary>Looks at a file that is all there, where nobody did yet: its hash, its kind, and what is made of a picture.</summary>
    /// <param name="file">The file.</param>
    /// <param name="sha256">Its hash, where it is known; else it is read once more.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task FinishAsync(FileRow file, byte[]? sha256, CancellationToken cancel)
    {
        if (file.KeptAt is not null || file.Received < file.Announced)
        {
            return;
        }

        // Looking takes long and room, so no transaction waits for it. Who looks twice at the same time finds the same, and writes it once.
        var look = await LookAsync(file, sha256, cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync($"select 1 from files where id = {file.Id} for update", cancel);
        await db.Entry(file).ReloadAsync(cancel);
        if (db.Entry(file).State == EntityState.Detached || file.KeptAt is not null)
        {
            return;
        }

        (file.Size, file.Sha256, file.Kind) = (file.Received, look.Sha256, look.Kind);
        if (look.Picture is { } made)
        {
            (file.Width, file.Height) = (made.Width, made.Height);
            file.Thumbnail = made.Thumbnail is null ? null : store.SealThumbnail(file, made.Thumbnail);
            if (made.Upright is { } upright)
            {
                await store.ReplaceAsync(file, upright, cancel);
                (file.Size, file.Sha256) = (upright.Length, SHA256.HashData(upright));
            }
        }

        file.KeptAt = clock.GetUtcNow();
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    private async Task<Look> LookAsync(FileRow file, byte[]? sha256, CancellationToken cancel)
    {
        await using var stream = await store.OpenAsync(file, cancel);
        var hash = sha256 ?? await SHA256.HashDataAsync(stream, cancel);
        var kind = FileTypeDetector.Tell(stream);
        return new Look(
            hash,
            kind,
            FileKinds.Find(kind) is { IsPicture: true }
                ? await pictures.MakeAsync(stream, file.Rewritten, FileLimits.MostPixels, cancel)
                : null
        );
    }

    /// <summary>Throws a file away; where a saved cart refers to it or an order has it, it stays.</summary>
    public Task DropAsync(FileRow file, CancellationToken cancel) => store.DropAsync(file.Id, carts.Ids, cancel);

    // Fills a piece; false when nothing follows it: at the end, and where the connection is lost.
    private static async Task<(int Filled, bool More)> FillAsync(Stream body, Memory<byte> piece, CancellationToken cancel)
    {
        var filled = 0;
        try
        {
            while (filled < piece.Length)
            {
                var read = await body.ReadAsync(piece[filled..], cancel);
                if (read == 0)
                {
                    return (filled, false);
                }

                filled += read;
            }

            return (filled, true);
        }
        catch (Exception e)
            when (e
                    is IOException
                        and not BadHttpRequestException { StatusCode: StatusCodes.Status413PayloadTooLarge }
                        or OperationCanceledException
            )
        {
            return (filled, false);
        }
    }

    private static ApiProblemException Gone() => ApiProblemException.Said(StatusCodes.Status404NotFound, "not_found", "file_gone");

    private static ApiProblemException NotThere(FileRow file) =>
        ApiProblemException.Said(StatusCodes.Status409Conflict, "offset", "upload_place", file.Name);

    private sealed record Look(byte[] Sha256, string? Kind, MadePicture? Picture);
}
