using System.Diagnostics;
using System.Globalization;
using Sexton.StandIns.Common;

namespace Sexton.StandIns.Files;

/// <summary>A file as it lies there.</summary>
/// <param name="Name">Its name, with the folders that it is in.</param>
/// <param name="Content">Its bytes.</param>
public sealed record InboxFile(string Name, byte[] Content);

/// <summary>
/// A bookkeeper's inbox: Debian's OpenSSH server on loopback, for SFTP and nothing else, with a host key and a user's key of its own. Its dial: down stops it; another host key
/// can be given to it.
/// </summary>
/// <param name="folder">Where keys and inbox lie.</param>
/// <param name="port">The port.</param>
public sealed class SftpServer(string folder, int port) : IHostedService, IDisposable
{
    private const string Program = "/usr/sbin/sshd";

    // It ends when this process does, however that comes about.
    private const string Watched =
        "\"$1\" -D -e -f \"$2\" & server=$!; while kill -0 \"$3\" 2>/dev/null && kill -0 $server 2>/dev/null; do sleep 1; done; kill $server 2>/dev/null";

    private static readonly string Own = Environment.ProcessId.ToString(CultureInfo.InvariantCulture);
    private readonly Lock _gate = new();
    private Process? _process;

    /// <summary>The folder into which files come.</summary>
    public string Inbox { get; } = Path.Combine(folder, "inbox");

    /// <summary>The private key with which a user signs in (PEM).</summary>
    public string UserKey => File.ReadAllText(Path.Combine(folder, "user_key"));

    /// <summary>The fingerprint of the host key, as ssh-keygen shows it.</summary>
    public string Fingerprint => Run("ssh-keygen", "-l", "-f", HostKeyFile + ".pub").Split(' ')[1];

    private string HostKeyFile => Path.Combine(folder, "host_key");

    /// <inheritdoc/>
    public Task StartAsync(CancellationToken cancellationToken)
    {
        Directory.CreateDirectory(Inbox);
        MakeKey(HostKeyFile);
        MakeKey(Path.Combine(folder, "user_key"));
        File.Copy(Path.Combine(folder, "user_key.pub"), Path.Combine(folder, "authorized_keys"), overwrite: true);
        if (Environment.IsPrivilegedProcess)
        {
            // Where the server gives up its rights when root has started it.
            Directory.CreateDirectory("/run/sshd");
        }

        File.WriteAllText(
            Path.Combine(folder, "sshd_config"),
            string.Create(
                CultureInfo.InvariantCulture,
                $"""
                Port {port}
                ListenAddress 127.0.0.1
                HostKey {HostKeyFile}
                PidFile none
                AuthorizedKeysFile {folder}/authorized_keys
                StrictModes no
                UsePAM no
                PasswordAuthentication no
                KbdInteractiveAuthentication no
                PermitRootLogin prohibit-password
                AllowTcpForwarding no
                AllowAgentForwarding no
                X11Forwarding no
                PermitTTY no
                Subsystem sftp internal-sftp
                ForceCommand internal-sftp -d {Inbox}

                """
            )
        );
        Start();
        return Task.CompletedTask;
    }

    /// <inheritdoc/>
    public Task StopAsync(CancellationToken cancellationToken)
    {
        Stop();
        return Task.CompletedTask;
    }

    /// <inheritdoc/>
    public void Dispose() => Stop();

    /// <summary>Maps its page and what can be done to it.</summary>
    internal void Map(RouteGroupBuilder group)
    {
        group.MapGet("", List);
        group.MapGet("inbox", Files);
        group.MapGet(
            "access",
            () =>
                new
                {
                    address = Address,
                    key = UserKey,
                    fingerprint = Fingerprint,
                }
        );
        group.MapPost("up", Start);
        group.MapPost("down", Stop);
        group.MapPost("another-host-key", ChangeHostKey);
        group.MapPost("taken", () => Directory.EnumerateFiles(Inbox, "*", SearchOption.AllDirectories).ToList().ForEach(File.Delete));
    }

    private string Address => $"sftp://{Environment.UserName}@127.0.0.1:{port.ToString(CultureInfo.InvariantCulture)}{Inbox}/";

    private IReadOnlyList<InboxFile> Files() =>
        [
            .. Directory
                .EnumerateFiles(Inbox, "*", SearchOption.AllDirectories)
                .Order(StringComparer.Ordinal)
                .Select(file => new InboxFile(Path.GetRelativePath(Inbox, file), File.ReadAllBytes(file))),
        ];

    // Only starts what does not run.
    private void Start()
    {
        lock (_gate)
        {
            if (_process is { HasExited: false })
            {
                return;
            }

            _process?.Dispose();
            _process = Process.Start(
                new ProcessStartInfo("/bin/sh", ["-c", Watched, "sh", Program, Path.Combine(folder, "sshd_config"), Own])
            )!;
        }
    }

    private void Stop()
    {
        lock (_gate)
        {
            if (_process is { HasExited: false })
            {
                _process.Kill(entireProcessTree: true);
                _process.WaitForExit();
            }

            _process?.Dispose();
            _process = null;
        }
    }

    private void ChangeHostKey()
    {
        Stop();
        File.Delete(HostKeyFile);
        MakeKey(HostKeyFile);
        Start();
    }

    private static void MakeKey(string file)
    {
        if (!File.Exists(file))
        {
            Run("ssh-keygen", "-q", "-t", "ed25519", "-N", "", "-C", "stand-in", "-f", file);
        }
    }

    private static string Run(string program, params string[] arguments)
    {
        using var process = Process.Start(
            new ProcessStartInfo(program, arguments) { RedirectStandardOutput = true, UseShellExecute = false }
        )!;
        var said = process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        return process.ExitCode == 0 ? said : throw new InvalidOperationException($"{program} ended with {process.ExitCode}.");
    }

    private IResult List()
    {
        var rows = string.Concat(
            Files()
                .Select(static f => $"<h2>{Page.Text(f.Name)}</h2><pre>{Page.Text(System.Text.Encoding.UTF8.GetString(f.Content))}</pre>")
        );
        return Page.Of(
            "Bookkeeper’s inbox",
            $"<p>{Page.Text(Address)}, host key {Page.Text(Fingerprint)}</p><p><button data-made=\"/files/down\">down</button> <button data-made=\"/files/up\">up</button> <button data-made=\"/files/another-host-key\">another host key</button> <button data-made=\"/files/taken\">take all files away</button></p>{rows}{Page.PostButtons}"
        );
    }
}
