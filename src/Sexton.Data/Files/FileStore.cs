using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage;
using Npgsql;
using NpgsqlTypes;
using Sexton.Data.Rows;

namespace Sexton.Data.Files;

/// <summary>Keeps the bytes of files in pieces, so that neither side ever holds a whole one in memory.</summary>
public sealed class FileStore(SextonDb db)
{
    /// <summary>The size of a piece, in bytes: large enough that what each costs does not count.</summary>
    public const int PieceSize = 512 * 1024;

    /// <summary>
    /// Adds a piece at the end of what came so far. Where another upload of the same file was quicker nothing is written.
    /// </summary>
    /// <returns>Whether it was written.</returns>
    public async Task<bool> AppendAsync(Guid file, long offset, ReadOnlyMemory<byte> piece, CancellationToken cancel)
    {
        await using var command = await CommandAsync(
            """
            with moved as (update files set received = $2 + octet_length($3) where id = $1 and received = $2 and kept_at is null returning id)
            insert into file_chunks (file_id, start, bytes) select id, $2, $3 from moved
            """,
            cancel);
        command.Parameters.Add(new() { Value = file });
        command.Parameters.Add(new() { Value = offset });
        command.Parameters.Add(new() { Value = piece, NpgsqlDbType = NpgsqlDbType.Bytea });
        return await command.ExecuteNonQueryAsync(cancel) == 1;
    }

    /// <summary>Puts other bytes in the place of those that came. Called within a transaction.</summary>
    public async Task ReplaceAsync(Guid file, byte[] bytes, CancellationToken cancel)
    {
        await db.Database.ExecuteSqlAsync($"delete from file_chunks where file_id = {file}", cancel);
        for (var start = 0; start < bytes.Length; start += PieceSize)
        {
            await using var command = await CommandAsync("insert into file_chunks (file_id, start, bytes) values ($1, $2, $3)", cancel);
            command.Parameters.Add(new() { Value = file });
            command.Parameters.Add(new() { Value = (long)start });
            command.Parameters.Add(new() { Value = bytes.AsMemory(start, Math.Min(PieceSize, bytes.Length - start)), NpgsqlDbType = NpgsqlDbType.Bytea });
            await command.ExecuteNonQueryAsync(cancel);
        }
    }

    /// <summary>Opens a file for reading. The database is not to be used for anything else until it is closed.</summary>
    public async Task<ChunkStream> OpenAsync(FileRow file, CancellationToken cancel)
    {
        await db.Database.OpenConnectionAsync(cancel);
        return await ChunkStream.OpenAsync(Connection, file.Id, file.KeptAt is null ? file.Received : file.Size, cancel);
    }

    /// <summary>
    /// Clears away carts that were not touched since a day, with their files, and files that no answer refers to since another. What an order
    /// has stays.
    /// </summary>
    /// <param name="untouchedSince">Carts changed before this go.</param>
    /// <param name="unusedSince">Files begun before this go, where no cart refers to them.</param>
    /// <param name="cancel">Cancels.</param>
    /// <returns>How many carts and files went.</returns>
    public async Task<(int Carts, int Files)> ClearAsync(DateTimeOffset untouchedSince, DateTimeOffset unusedSince, CancellationToken cancel)
    {
        // An attempt under way, and what the payment provider may still say about it, keep their cart.
        var carts = await db.Database.ExecuteSqlAsync(
            $"""
            with old as (
                select id from carts c where c.order_id is null and c.changed_at < {untouchedSince}
                and not exists (select 1 from attempts a where a.cart_id = c.id and a.state in ({(short)AttemptState.Paying}, {(short)AttemptState.Placed}))
            ), ended as (
                delete from attempts where cart_id in (select id from old)
            )
            delete from carts where id in (select id from old)
            """,
            cancel);
        var files = await db.Database.ExecuteSqlAsync(
            $"""
            delete from files f where f.order_id is null and (
                not exists (select 1 from carts c where c.id = f.cart_id)
                or (f.created_at < {unusedSince} and not exists (
                    select 1 from carts c where c.id = f.cart_id and c.order_id is null and strpos(c.content::text, f.id::text) > 0)))
            """,
            cancel);
        return (carts, files);
    }

    private NpgsqlConnection Connection => (NpgsqlConnection)db.Database.GetDbConnection();

    private async Task<NpgsqlCommand> CommandAsync(string sql, CancellationToken cancel)
    {
        await db.Database.OpenConnectionAsync(cancel);
        return new NpgsqlCommand(sql, Connection, (NpgsqlTransaction?)db.Database.CurrentTransaction?.GetDbTransaction());
    }
}
