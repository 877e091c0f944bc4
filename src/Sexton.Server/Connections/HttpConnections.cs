using Sexton.Data.Rows;
using Sexton.Destinations.Events;
using Sexton.Destinations.Http;
using Sexton.Server.Common;

namespace Sexton.Server.Connections;

/// <summary>Opens connections as the shop has them now: what is changed counts from the next request.</summary>
internal sealed class HttpConnections(IHttpClientFactory clients, OutgoingHandler outgoing, StoredConnections stored, SextonOptions options)
    : IHttpConnections,
        ISigningConnections
{
    /// <summary>The name of the client that reaches the back office of the installation.</summary>
    public const string OfInstallation = "back office";

    /// <summary>No answer of another system is longer, in bytes.</summary>
    public const int LongestAnswer = 4 * 1024 * 1024;

    /// <inheritdoc/>
    public async Task<HttpClient> OpenAsync(string connection, CancellationToken cancel)
    {
        if (connection.Length == 0)
        {
            return clients.CreateClient(OfInstallation);
        }

        var row = await FindAsync(connection, cancel);
        return Client(row, new SecretHandler(stored.SecretsOf(row), outgoing.Shared));
    }

    /// <inheritdoc/>
    public async Task<SigningConnection> OpenSigningAsync(string connection, CancellationToken cancel)
    {
        var row = await FindAsync(connection, cancel);
        return new SigningConnection(Client(row, new SecretHandler([], outgoing.Shared)), stored.SecretsOf(row));
    }

    private async Task<ConnectionRow> FindAsync(string connection, CancellationToken cancel)
    {
        var row =
            await stored.FindAsync(connection, cancel)
            ?? throw new HttpRequestException($"there is no connection “{connection}” any more.");
        return StoredConnections.IsForFiles(row)
            ? throw new HttpRequestException($"the connection “{connection}” is for files, and leads to no system that answers over https.")
            : row;
    }

    private HttpClient Client(ConnectionRow row, HttpMessageHandler handler) =>
        new(handler)
        {
            BaseAddress = new Uri(row.Address),
            Timeout = TimeSpan.FromSeconds(options.TimeOutSeconds),
            MaxResponseContentBufferSize = LongestAnswer,
        };
}
