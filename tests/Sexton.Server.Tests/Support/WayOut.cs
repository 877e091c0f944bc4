using Sexton.Destinations.Http;

namespace Sexton.Server.Tests.Support;

/// <summary>A way out to one system, whatever connection is asked for.</summary>
/// <param name="make">Makes a client.</param>
internal sealed class WayOut(Func<HttpClient> make) : IHttpConnections
{
    /// <summary>A way out that nothing takes.</summary>
    public static readonly WayOut None = new(static () => throw new NotSupportedException());

    /// <inheritdoc/>
    public Task<HttpClient> OpenAsync(string connection, CancellationToken cancel) => Task.FromResult(make());
}
