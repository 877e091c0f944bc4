namespace Sexton.Destinations.Http;

/// <summary>Gives the ways out to other systems.</summary>
public interface IHttpConnections
{
    /// <summary>A client for a connection, whose base address, credential and limits are those of the connection.</summary>
    /// <param name="connection">The key of the connection; "" for that of the installation.</param>
    /// <param name="cancel">Cancels.</param>
    /// <exception cref="HttpRequestException">There is no such connection; the message says so.</exception>
    Task<HttpClient> OpenAsync(string connection, CancellationToken cancel);
}
