using System.Collections.Concurrent;
using System.Net;
using System.Net.Sockets;
using Npgsql;

namespace Sexton.Server.Tests.Support;

/// <summary>
/// Stands between a server and its database: counts round trips on the wire, and cuts connections. A round trip ends with the
/// message ReadyForQuery ('Z') of PostgreSQL's protocol 3 (its documentation, chapter "Message Formats").
/// </summary>
internal sealed class PostgresProxy : IDisposable
{
    private readonly TcpListener _listener = new(IPAddress.Loopback, 0);
    private readonly ConcurrentDictionary<TcpClient, bool> _open = new();
    private readonly int _port;
    private long _roundTrips;
    private volatile bool _refuses;

    public PostgresProxy(string connection)
    {
        var builder = new NpgsqlConnectionStringBuilder(connection);
        _port = builder.Port;
        _listener.Start();
        builder.Port = ((IPEndPoint)_listener.LocalEndpoint).Port;
        // Encrypted, nothing could be counted.
        builder.SslMode = SslMode.Disable;
        Connection = builder.ConnectionString;
        _ = AcceptAsync();
    }

    /// <summary>The connection string by way of here.</summary>
    public string Connection { get; }

    /// <summary>The round trips so far.</summary>
    public long RoundTrips => Interlocked.Read(ref _roundTrips);

    /// <summary>Cuts every connection, and refuses new ones until <see cref="Restore"/>.</summary>
    public void Cut()
    {
        _refuses = true;
        foreach (var client in _open.Keys)
        {
            client.Close();
        }
    }

    /// <summary>Lets connections through again.</summary>
    public void Restore() => _refuses = false;

    public void Dispose()
    {
        _listener.Dispose();
        Cut();
    }

    private async Task AcceptAsync()
    {
        try
        {
            while (true)
            {
                var client = await _listener.AcceptTcpClientAsync();
                if (_refuses)
                {
                    client.Close();
                    continue;
                }

                _ = ServeAsync(client);
            }
        }
        catch (Exception e) when (e is SocketException or ObjectDisposedException)
        {
            // Disposed.
        }
    }

    private async Task ServeAsync(TcpClient client)
    {
        using var server = new TcpClient { NoDelay = true };
        client.NoDelay = true;
        try
        {
            await server.ConnectAsync(IPAddress.Loopback, _port);
            (_open[client], _open[server]) = (true, true);
            await Task.WhenAny(client.GetStream().CopyToAsync(server.GetStream()), CountAsync(server.GetStream(), client.GetStream()));
        }
        catch (Exception e) when (e is IOException or SocketException or ObjectDisposedException or InvalidOperationException)
        {
            // Cut.
        }
        finally
        {
            _open.TryRemove(client, out _);
            _open.TryRemove(server, out _);
            client.Close();
        }
    }

    // Every message of the server is a type octet and a length, which counts itself but not the type.
    private async Task CountAsync(NetworkStream from, NetworkStream to)
    {
        var head = new byte[5];
        while (true)
        {
            await from.ReadExactlyAsync(head);
            var body = new byte[System.Buffers.Binary.BinaryPrimitives.ReadInt32BigEndian(head.AsSpan(1)) - 4];
            await from.ReadExactlyAsync(body);
            if (head[0] == (byte)'Z')
            {
                Interlocked.Increment(ref _roundTrips);
            }

            await to.WriteAsync(head);
            await to.WriteAsync(body);
        }
    }
}
