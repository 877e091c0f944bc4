using System.Net.Sockets;
using System.Text;
using Renci.SshNet;
using Renci.SshNet.Common;

namespace Sexton.Destinations.Drop.Places;

/// <summary>A folder that is reached by SFTP (SSH File Transfer Protocol, version 3).</summary>
public sealed class SftpPlace : IDropPlace
{
    private readonly SftpClient _client;
    private readonly string _folder;

    private SftpPlace(SftpClient client, string folder) => (_client, _folder) = (client, folder);

    /// <summary>Signs in.</summary>
    /// <param name="access">How it is reached.</param>
    /// <param name="folder">The folder below that of the access.</param>
    /// <param name="timeOut">How long anything there may take.</param>
    /// <param name="cancel">Cancels.</param>
    /// <exception cref="IOException">It cannot be reached, shows another host key, or refuses the secret; the message says which.</exception>
    public static async Task<SftpPlace> OpenAsync(SftpAccess access, string folder, TimeSpan timeOut, CancellationToken cancel)
    {
        SftpClient? client = null;
        string? shown = null;
        try
        {
            client = new SftpClient(
                new ConnectionInfo(access.Host, access.Port, access.User, [.. access.Secrets.Select(s => MethodOf(access.User, s))])
                {
                    Timeout = timeOut,
                }
            )
            {
                OperationTimeout = timeOut,
            };
            client.HostKeyReceived += (_, e) => (shown, e.CanTrust) = (e.FingerPrintSHA256, e.FingerPrintSHA256 == access.HostKey);
            await client.ConnectAsync(cancel);
            return new SftpPlace(client, Joined(access.Folder, folder));
        }
        catch (Exception e) when (IsTrouble(e))
        {
            client?.Dispose();
            throw new IOException(shown is not null && shown != access.HostKey ? WhyNotTrusted(access, shown) : e.Message, e);
        }
    }

    /// <summary>The fingerprint of the host key that a server shows, before anything is said to it.</summary>
    /// <param name="access">How it is reached.</param>
    /// <param name="timeOut">How long it may take.</param>
    /// <param name="cancel">Cancels.</param>
    /// <exception cref="IOException">It cannot be reached; the message says why.</exception>
    public static async Task<string> HostKeyOfAsync(SftpAccess access, TimeSpan timeOut, CancellationToken cancel)
    {
        string? shown = null;
        using var client = new SftpClient(
            new ConnectionInfo(access.Host, access.Port, access.User, new NoneAuthenticationMethod(access.User)) { Timeout = timeOut }
        );
        client.HostKeyReceived += (_, e) => (shown, e.CanTrust) = (e.FingerPrintSHA256, false);
        try
        {
            await client.ConnectAsync(cancel);
        }
        catch (Exception e) when (IsTrouble(e))
        {
            return shown ?? throw new IOException(e.Message, e);
        }

        return shown!;
    }

    /// <summary>Whether a text is a private key that can be signed in with: one of OpenSSH or PEM, without a passphrase.</summary>
    public static bool IsPrivateKey(string secret)
    {
        try
        {
            using var bytes = new MemoryStream(Encoding.ASCII.GetBytes(secret));
            using var key = new PrivateKeyFile(bytes);
            return true;
        }
        catch (Exception e)
            when (e is SshException or FormatException or ArgumentException or NotSupportedException or InvalidOperationException)
        {
            return false;
        }
    }

    /// <inheritdoc/>
    public Task<byte[]?> ReadAsync(string name, CancellationToken cancel) =>
        Guarded<byte[]?>(async () =>
        {
            try
            {
                using var bytes = new MemoryStream();
                await _client.DownloadFileAsync(PathOf(name), bytes, cancel);
                return bytes.ToArray();
            }
            catch (SftpPathNotFoundException)
            {
                return null;
            }
        });

    /// <inheritdoc/>
    public Task WriteAsync(string name, byte[] bytes, CancellationToken cancel) =>
        Guarded(async () =>
        {
            try
            {
                await UploadAsync(name, bytes, cancel);
            }
            catch (SftpPathNotFoundException)
            {
                await MakeFolderAsync(cancel);
                await UploadAsync(name, bytes, cancel);
            }

            return true;
        });

    /// <inheritdoc/>
    public Task RenameAsync(string from, string to, CancellationToken cancel) =>
        Guarded(async () =>
        {
            await _client.RenameFileAsync(PathOf(from), PathOf(to), cancel);
            return true;
        });

    /// <inheritdoc/>
    public Task RemoveAsync(string name, CancellationToken cancel) =>
        Guarded(async () =>
        {
            if (await _client.ExistsAsync(PathOf(name), cancel))
            {
                await _client.DeleteFileAsync(PathOf(name), cancel);
            }

            return true;
        });

    /// <inheritdoc/>
    public ValueTask DisposeAsync()
    {
        _client.Dispose();
        return ValueTask.CompletedTask;
    }

    private async Task UploadAsync(string name, byte[] bytes, CancellationToken cancel)
    {
        using var content = new MemoryStream(bytes);
        await _client.UploadFileAsync(content, PathOf(name), cancel);
    }

    private async Task MakeFolderAsync(CancellationToken cancel)
    {
        for (var end = _folder.IndexOf('/', 1); ; end = _folder.IndexOf('/', end + 1))
        {
            var folder = end < 0 ? _folder : _folder[..end];
            if (!await _client.ExistsAsync(folder, cancel))
            {
                await _client.CreateDirectoryAsync(folder, cancel);
            }

            if (end < 0)
            {
                return;
            }
        }
    }

    private static string WhyNotTrusted(SftpAccess access, string shown) =>
        access.HostKey is null
            ? $"its host key SHA256:{shown} was not looked at yet. Reach the connection, compare the key, and trust it."
            : $"it shows the host key SHA256:{shown}, and not SHA256:{access.HostKey} that is trusted. Nothing goes there until somebody trusts that one.";

    private static AuthenticationMethod MethodOf(string user, string secret)
    {
        if (!secret.StartsWith("-----BEGIN", StringComparison.Ordinal))
        {
            return new PasswordAuthenticationMethod(user, secret);
        }

        using var bytes = new MemoryStream(Encoding.ASCII.GetBytes(secret));
        return new PrivateKeyAuthenticationMethod(user, new PrivateKeyFile(bytes));
    }

    private string PathOf(string name) => Joined(_folder, name);

    private static string Joined(string folder, string name) =>
        folder.Length == 0 || name.Length == 0 ? folder + name : $"{folder.TrimEnd('/')}/{name}";

    private static bool IsTrouble(Exception e) => e is SshException or SocketException or ObjectDisposedException or TimeoutException;

    private static async Task<T> Guarded<T>(Func<Task<T>> work)
    {
        try
        {
            return await work();
        }
        catch (Exception e) when (IsTrouble(e))
        {
            throw new IOException(e.Message, e);
        }
    }
}
