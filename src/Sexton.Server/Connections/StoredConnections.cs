using Microsoft.EntityFrameworkCore;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Data.Sealing;

namespace Sexton.Server.Connections;

/// <summary>The connections as the shop has them now, with their secrets opened.</summary>
internal sealed class StoredConnections(IServiceScopeFactory scopes, KeyVault vault)
{
    /// <summary>With what the address of an SFTP server begins.</summary>
    public const string FileScheme = "sftp";

    /// <summary>A connection; null where there is none of that key any more.</summary>
    /// <param name="key">Its key.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<ConnectionRow?> FindAsync(string key, CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        return await scope
            .ServiceProvider.GetRequiredService<SextonDb>()
            .Connections.AsNoTracking()
            .SingleOrDefaultAsync(c => c.Key == key, cancel);
    }

    /// <summary>The secrets of a connection that count, the newest first.</summary>
    public IReadOnlyList<string> SecretsOf(ConnectionRow row) =>
        [.. new[] { row.Secret, row.SecretBefore }.OfType<byte[]>().Select(secret => ConnectionSecret.Open(secret, vault))];

    /// <summary>Whether a connection leads to a place for files, and to no system that answers over HTTP.</summary>
    public static bool IsForFiles(ConnectionRow row) => new Uri(row.Address).Scheme == FileScheme;
}
