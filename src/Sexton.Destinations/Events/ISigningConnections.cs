namespace Sexton.Destinations.Events;

/// <summary>Gives the ways out to programs that tell by a signature from whom something comes.</summary>
public interface ISigningConnections
{
    /// <summary>Opens a connection that shows no secret, but signs by it.</summary>
    /// <param name="connection">The key of the connection.</param>
    /// <param name="cancel">Cancels.</param>
    /// <exception cref="HttpRequestException">There is no such connection; the message says so.</exception>
    Task<SigningConnection> OpenSigningAsync(string connection, CancellationToken cancel);
}

/// <summary>A way out by which signed messages go.</summary>
/// <param name="Http">A client whose base address and limits are those of the connection.</param>
/// <param name="Secrets">The secrets that count, the newest first: two while one is turned over.</param>
public sealed record SigningConnection(HttpClient Http, IReadOnlyList<string> Secrets) : IDisposable
{
    /// <inheritdoc/>
    public void Dispose() => Http.Dispose();
}
