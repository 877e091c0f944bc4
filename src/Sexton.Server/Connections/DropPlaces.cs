using Sexton.Data.Rows;
using Sexton.Destinations.Drop.Places;
using Sexton.Server.Common;

namespace Sexton.Server.Connections;

/// <summary>Opens the places where files are dropped: folders below the one that the operator gives, and SFTP servers by the connections of the shop.</summary>
internal sealed class DropPlaces(OutgoingHandler outgoing, StoredConnections stored, SextonOptions options) : IDropPlaces
{
    private TimeSpan TimeOut => TimeSpan.FromSeconds(options.TimeOutSeconds);

    /// <inheritdoc/>
    public async Task<IDropPlace> OpenAsync(string? connection, string folder, CancellationToken cancel)
    {
        if (connection is null)
        {
            return options.DropFolder.Length > 0
                ? new FolderPlace(Path.Combine(options.DropFolder, folder))
                : throw new IOException("this installation has no folder for files. The operator gives one by SEXTON__DROPFOLDER.");
        }

        var row = await stored.FindAsync(connection, cancel) ?? throw new IOException($"there is no connection “{connection}” any more.");
        return await SftpPlace.OpenAsync(await AccessAsync(row, cancel), folder, TimeOut, cancel);
    }

    /// <summary>Whether a server lets us in, and the host key that it shows where that is not the one that is trusted.</summary>
    /// <param name="row">The connection.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<ReachView> ReachAsync(ConnectionRow row, CancellationToken cancel)
    {
        try
        {
            var access = await AccessAsync(row, cancel);
            var shown = await SftpPlace.HostKeyOfAsync(access, TimeOut, cancel);
            if (shown != row.HostKey)
            {
                return new ReachView(
                    false,
                    row.HostKey is null
                        ? $"It shows the host key SHA256:{shown}. Compare it with what whoever runs it told you."
                        : $"It shows the host key SHA256:{shown}, and not SHA256:{row.HostKey} that is trusted. Ask whoever runs it before you trust that one.",
                    shown
                );
            }

            await using var place = await SftpPlace.OpenAsync(access, "", TimeOut, cancel);
            return new ReachView(true, "It answers, shows the host key that is trusted, and lets us in.");
        }
        catch (IOException e)
        {
            return new ReachView(false, $"It cannot be reached: {e.Message}");
        }
    }

    // The path is the server's own; behind ~ one below the folder of the user (draft-ietf-secsh-scp-sftp-ssh-uri-04 leaves that to whoever runs it; common practice).
    private static string FolderOf(string path) =>
        path == "/~" ? ""
        : path.StartsWith("/~/", StringComparison.Ordinal) ? path[3..]
        : path;

    // Connected to as it was looked up, so that no other answer of a name server leads inside.
    private async Task<SftpAccess> AccessAsync(ConnectionRow row, CancellationToken cancel)
    {
        var address = new Uri(row.Address);
        if (!StoredConnections.IsForFiles(row))
        {
            throw new IOException($"the connection “{row.Name}” leads to {address}, and files go by sftp.");
        }

        try
        {
            return new SftpAccess(
                (await outgoing.LookUpAsync(address.DnsSafeHost, cancel))[0].ToString(),
                address.IsDefaultPort || address.Port < 0 ? 22 : address.Port,
                Uri.UnescapeDataString(address.UserInfo),
                FolderOf(Uri.UnescapeDataString(address.AbsolutePath).TrimEnd('/')),
                stored.SecretsOf(row),
                row.HostKey
            );
        }
        catch (Exception e) when (e is HttpRequestException or System.Net.Sockets.SocketException)
        {
            throw new IOException(e.Message, e);
        }
    }
}
