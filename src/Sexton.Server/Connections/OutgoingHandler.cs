using System.Net;
using System.Net.Sockets;
using Sexton.Server.Common;

namespace Sexton.Server.Connections;

/// <summary>
/// What every connection goes through: it reaches no address inside this machine or network that the operator does not allow, looked up once and connected to as
/// it was looked up; it follows no redirect and asks no proxy.
/// </summary>
internal sealed class OutgoingHandler(SextonOptions options) : IDisposable
{
    private readonly IPNetwork[] _allowed = [.. SextonOptions.NetworksOf(options.InsideNetworks).OfType<IPNetwork>()];
    private SocketsHttpHandler? _handler;

    /// <summary>The handler that all connections share.</summary>
    public HttpMessageHandler Shared =>
        _handler ??= new SocketsHttpHandler
        {
            AllowAutoRedirect = false,
            UseProxy = false,
            UseCookies = false,
            PooledConnectionLifetime = TimeSpan.FromMinutes(2),
            ConnectCallback = async (context, cancel) => await ConnectAsync(context.DnsEndPoint, cancel),
        };

    /// <summary>Whether an address may be reached.</summary>
    public bool Allows(IPAddress address) => !InsideAddresses.Has(address) || _allowed.Any(network => network.Contains(Plain(address)));

    /// <summary>The addresses of a host that may be reached; at least one.</summary>
    /// <exception cref="HttpRequestException">None may; the message says so.</exception>
    public async Task<IPAddress[]> LookUpAsync(string host, CancellationToken cancel)
    {
        var addresses = (await Dns.GetHostAddressesAsync(host, cancel)).Where(Allows).ToArray();
        return addresses.Length > 0
            ? addresses
            : throw new HttpRequestException(
                $"“{host}” is inside this machine or network. The operator allows such addresses by SEXTON__INSIDENETWORKS."
            );
    }

    /// <inheritdoc/>
    public void Dispose() => _handler?.Dispose();

    private async Task<NetworkStream> ConnectAsync(DnsEndPoint to, CancellationToken cancel)
    {
        var addresses = await LookUpAsync(to.Host, cancel);
        var socket = new Socket(SocketType.Stream, ProtocolType.Tcp) { NoDelay = true };
        try
        {
            await socket.ConnectAsync(addresses, to.Port, cancel);
            return new NetworkStream(socket, ownsSocket: true);
        }
        catch
        {
            socket.Dispose();
            throw;
        }
    }

    private static IPAddress Plain(IPAddress address) => address.IsIPv4MappedToIPv6 ? address.MapToIPv4() : address;
}
