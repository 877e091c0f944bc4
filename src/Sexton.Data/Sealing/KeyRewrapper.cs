using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace Sexton.Data.Sealing;

/// <summary>Wraps every key in the database anew, after the key from the environment was turned over. What the keys sealed stays as it is.</summary>
public sealed class KeyRewrapper(SextonDb db, KeyVault vault)
{
    private const int AtATime = 500;

    private static readonly string[] Tables = ["orders", "attempts", "carts", "files", "invoices"];

    /// <summary>Wraps them all; it can be interrupted and begun again, while servers that know both keys go on.</summary>
    /// <returns>How many keys were wrapped anew.</returns>
    public async Task<int> RunAsync(CancellationToken cancel)
    {
        var count = 0;
        await db.Database.OpenConnectionAsync(cancel);
        var connection = (NpgsqlConnection)db.Database.GetDbConnection();
        foreach (var table in Tables)
        {
            for (var last = Guid.Empty; ; )
            {
                var keys = await NextAsync(connection, table, last, cancel);
                if (keys.Count == 0)
                {
                    break;
                }

                foreach (var (id, wrapped) in keys)
                {
                    await using var write = new NpgsqlCommand($"update {table} set key = $1 where id = $2 and key = $3", connection)
                    {
                        Parameters =
                        {
                            new() { Value = vault.Rewrap(wrapped) },
                            new() { Value = id },
                            new() { Value = wrapped },
                        },
                    };
                    count += await write.ExecuteNonQueryAsync(cancel);
                }

                last = keys[^1].Id;
            }
        }

        return count + await RewrapConnectionsAsync(cancel);
    }

    private async Task<int> RewrapConnectionsAsync(CancellationToken cancel)
    {
        var connections = await db.Connections.Where(c => c.Secret != null).ToListAsync(cancel);
        foreach (var row in connections)
        {
            (row.Secret, row.SecretBefore) = (ConnectionSecret.Rewrap(row.Secret, vault), ConnectionSecret.Rewrap(row.SecretBefore, vault));
            row.Revision++;
        }

        await db.SaveChangesAsync(cancel);
        return connections.Count;
    }

    private static async Task<List<(Guid Id, byte[] Key)>> NextAsync(
        NpgsqlConnection connection,
        string table,
        Guid after,
        CancellationToken cancel
    )
    {
        await using var read = new NpgsqlCommand(
            $"select id, key from {table} where id > $1 and length(key) > 0 order by id limit {AtATime}",
            connection
        )
        {
            Parameters = { new() { Value = after } },
        };
        await using var reader = await read.ExecuteReaderAsync(cancel);
        var keys = new List<(Guid, byte[])>();
        while (await reader.ReadAsync(cancel))
        {
            keys.Add((reader.GetGuid(0), reader.GetFieldValue<byte[]>(1)));
        }

        return keys;
    }
}
