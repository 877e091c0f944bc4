using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Npgsql;
using NpgsqlTypes;
using Sexton.Data.Rows;
using Sexton.Data.Sealing;

namespace Sexton.Data.Files;

/// <summary>Keeps the bytes of files in pieces, so that neither side ever holds a whole one in memory.</summary>
public sealed class FileStore(SextonDb db, KeyVault vault)
{
    /// <summary>The size of a piece, in bytes: large enough that what each costs does not count.</summary>
    public const int PieceSize = 512 * 1024;

    private const string ThumbnailPurpose = "thumbnail";

    /// <summary>What a piece is sealed for: its place in the file.</summary>
    internal static string PiecePurpose(long start) => string.Create(CultureInfo.InvariantCulture, $"piece {start}");

    /// <summary>
    /// Adds a piece at the end of what came so far. Where another upload of the same file was quicker nothing is written.
    /// </summary>
    /// <returns>Whether it was written.</returns>
    public async Task<bool> AppendAsync(FileRow file, long offset, ReadOnlyMemory<byte> piece, CancellationToken cancel) =>
        await ExecuteAsync(
            """
            with moved as (update files set received = $2 + $4 where id = $1 and received = $2 and kept_at is null returning id)
            insert into file_chunks (file_id, start, bytes) select id, $2, $3 from moved
            """,
            file,
            offset,
            piece,
            cancel
        ) == 1;

    /// <summary>A new key for a file, wrapped.</summary>
    public byte[] MakeKey() => vault.Make().Wrapped;

    /// <summary>Seals a small picture.</summary>
    public byte[] SealThumbnail(FileRow file, byte[] thumbnail) => vault.Open(file.Key).Seal(thumbnail, ThumbnailPurpose);

    /// <summary>Opens a small picture; null for none.</summary>
    public byte[]? OpenThumbnail(FileRow file) =>
        file.Thumbnail is null ? null : vault.Open(file.Key).Open(file.Thumbnail, ThumbnailPurpose);

    /// <summary>Puts other bytes in the place of those that came. Called within a transaction.</summary>
    public async Task ReplaceAsync(FileRow file, byte[] bytes, CancellationToken cancel)
    {
        await db.Database.ExecuteSqlAsync($"delete from file_chunks where file_id = {file.Id}", cancel);
        for (var start = 0; start < bytes.Length; start += PieceSize)
        {
            await ExecuteAsync(
                "insert into file_chunks (file_id, start, bytes) values ($1, $2, $3)",
                file,
                start,
                bytes.AsMemory(start, Math.Min(PieceSize, bytes.Length - start)),
                cancel
            );
        }
    }

    /// <summary>Opens a file for reading.</summary>
    public async Task<ChunkStream> OpenAsync(FileRow file, CancellationToken cancel) =>
        new(
            db,
            file.Id,
            await db
                .FileChunks.Where(c => c.FileId == file.Id)
                .OrderBy(static c => c.Start)
                .Select(static c => c.Start)
                .ToArrayAsync(cancel),
            file.KeptAt is null ? file.Received : file.Size,
            vault.Open(file.Key)
        );

    /// <summary>A file goes with the cart whose answers refer to it: from one that does not to another.</summary>
    /// <param name="files">The files.</param>
    /// <param name="from">The carts of the same shopper.</param>
    /// <param name="cart">The cart whose answers refer to the files.</param>
    /// <param name="cancel">Cancels.</param>
    public Task TakeAsync(IReadOnlyList<Guid> files, IReadOnlyList<Guid> from, Guid cart, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync(
            $"""
            update files f set cart_id = {cart} where f.id = any({files.ToArray()}) and f.cart_id = any({from.ToArray()})
            and not exists (select 1 from carts c where c.id = f.cart_id and f.id = any(c.files))
            """,
            cancel
        );

    /// <summary>Throws a file away; where one of the carts refers to it or an order has it, it stays.</summary>
    public Task DropAsync(Guid file, IReadOnlyList<Guid> carts, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync(
            $"""
            delete from files f where f.id = {file} and not exists (select 1 from order_files o where o.file_id = f.id)
            and not exists (select 1 from carts c where c.id = any({carts.ToArray()}) and f.id = any(c.files))
            """,
            cancel
        );

    /// <summary>
    /// Clears away carts that were not touched since a day, with their files, and files that no answer refers to since another. What an order
    /// has stays.
    /// </summary>
    /// <param name="untouchedSince">Carts changed before this go.</param>
    /// <param name="unusedSince">Files begun before this go, where no cart refers to them.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>How many carts and files went.</returns>
    public async Task<(int Carts, int Files)> ClearAsync(
        DateTimeOffset untouchedSince,
        DateTimeOffset unusedSince,
        CancellationToken cancel
    )
    {
        // An attempt under way, and what the payment provider may still say about it, keep their cart; one that was ordered long ago is wanted by nobody.
        var carts = await db.Database.ExecuteSqlAsync(
            $"""
            with old as (
                select id from carts c where c.changed_at < {untouchedSince}
                and not exists (select 1 from attempts a where a.cart_id = c.id and (a.state = {(short)
                AttemptState.Paying} or (a.state = {(short)AttemptState.Placed} and c.order_id is null)))
            ), ended as (
                delete from attempts where cart_id in (select id from old)
            )
            delete from carts where id in (select id from old)
            """,
            cancel
        );
        var files = await db.Database.ExecuteSqlAsync(
            $"""
            delete from files f where not exists (select 1 from order_files o where o.file_id = f.id) and (
                not exists (select 1 from carts c where c.id = f.cart_id)
                or (f.created_at < {unusedSince} and not exists (
                    select 1 from carts c where c.id = f.cart_id and c.order_id is null and f.id = any(c.files))))
            """,
            cancel
        );
        return (carts, files);
    }

    // The connection is given back after each piece: people's networks are slow, and a file under way must not keep one from others.
    private async Task<int> ExecuteAsync(string sql, FileRow file, long start, ReadOnlyMemory<byte> bytes, CancellationToken cancel)
    {
        var piece = vault.Open(file.Key).Seal(bytes.Span, PiecePurpose(start));
        await db.Database.OpenConnectionAsync(cancel);
        try
        {
            await using var command = new NpgsqlCommand(
                sql,
                (NpgsqlConnection)db.Database.GetDbConnection(),
                (NpgsqlTransaction?)db.Database.CurrentTransaction?.GetDbTransaction()
            )
            {
                Parameters =
                {
                    new() { Value = file.Id },
                    new() { Value = start },
                    new() { Value = piece, NpgsqlDbType = NpgsqlDbType.Bytea },
                },
            };
            if (sql.Contains("$4", StringComparison.Ordinal))
            {
                command.Parameters.Add(new() { Value = (long)bytes.Length });
            }

            return await command.ExecuteNonQueryAsync(cancel);
        }
        finally
        {
            await db.Database.CloseConnectionAsync();
        }
    }
}
