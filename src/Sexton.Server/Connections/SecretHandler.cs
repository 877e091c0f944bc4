using System.Net;
using System.Net.Http.Headers;

namespace Sexton.Server.Connections;

/// <summary>
/// Shows the secrets of a connection (RFC 6750): the newest, and where that is refused the one before, so that a secret is turned over without a gap,
/// whichever side does it first.
/// </summary>
/// <param name="secrets">The secrets, the newest first.</param>
/// <param name="next">What sends.</param>
internal sealed class SecretHandler(IReadOnlyList<string> secrets, HttpMessageHandler next) : DelegatingHandler(next)
{
    /// <inheritdoc/>
    protected override async Task<HttpResponseMessage> SendAsync(HttpRequestMessage request, CancellationToken cancellationToken)
    {
        for (var i = 0; ; i++)
        {
            request.Headers.Authorization = i < secrets.Count ? new AuthenticationHeaderValue("Bearer", secrets[i]) : null;
            var response = await base.SendAsync(request, cancellationToken);
            if (i + 1 >= secrets.Count || response.StatusCode is not (HttpStatusCode.Unauthorized or HttpStatusCode.Forbidden))
            {
                return response;
            }

            response.Dispose();
        }
    }

    /// <inheritdoc/>
    protected override void Dispose(bool disposing)
    {
        // What sends is shared, and outlives the client.
    }
}
