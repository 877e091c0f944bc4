using System.Collections.Concurrent;
using System.Net;
using System.Net.Sockets;

namespace Sexton.Server.Tests.Support;

/// <summary>Stands between two programs and keeps every byte that passes, as somebody would who listens in.</summary>
internal sealed class Wire : IDisposable
{
    private readonly TcpListener _listener = new(IPAddress.Loopback, 0);
    private readonly ConcurrentQueue<byte[]> _passed = new();
    private readonly int _to;

    public Wire(int to)
    {
        _to = to;
        _listener.Start();
        _ = AcceptAsync();
    }

    /// <summary>The port to connect to instead.</summary>
    public int Port => ((IPEndPoint)_listener.LocalEndpoint).Port;

    /// <summary>What passed so far, either way, an octet a character.</summary>
    public string Passed => string.Concat(_passed.Select(System.Text.Encoding.Latin1.GetString));

    public void Dispose() => _listener.Dispose();

    private async Task AcceptAsync()
    {
        try
        {
            while (true)
            {
                _ = PassAsync(await _listener.AcceptTcpClientAsync());
            }
        }
        catch (Exception e) when (e is SocketException or ObjectDisposedException)
        {
            // Taken down.
        }
    }

    private async Task PassAsync(TcpClient near)
    {
        using var owned = near;
        using var far = new TcpClient();
        try
        {
            await far.ConnectAsync(IPAddress.Loopback, _to);
            await Task.WhenAny(CopyAsync(near.GetStream(), far.GetStream()), CopyAsync(far.GetStream(), near.GetStream()));
        }
        catch (Exception e) when (e is SocketException or IOException or ObjectDisposedException)
        {
            // Either side went away.
        }
    }

    private async Task CopyAsync(NetworkStream from, NetworkStream to)
    {
        var buffer = new byte[8192];
        while (await from.ReadAsync(buffer) is > 0 and var read)
        {
            _passed.Enqueue(buffer[..read]);
            await to.WriteAsync(buffer.AsMemory(0, read));
        }
    }
}
