using System.Net;
using Sexton.Core.Routing;

namespace Sexton.Destinations.Http;

/// <summary>What another system means by its answer.</summary>
internal static class HttpAnswer
{
    /// <summary>Why a request was not taken though nothing is wrong with the order, in a sentence: it goes as soon as the connection is mended. Null where that is not so.</summary>
    /// <param name="response">The answer.</param>
    /// <param name="to">The destination.</param>
    /// <param name="whereSecret">Where another secret is given, as a sentence.</param>
    public static string? WhyNotTaken(HttpResponseMessage response, BoundDestination to, string whereSecret) =>
        response.StatusCode switch
        {
            HttpStatusCode.Unauthorized or HttpStatusCode.Forbidden =>
                $"{to.Beginning} refused this server’s secret ({(int)response.StatusCode}). {whereSecret}",
            >= HttpStatusCode.MultipleChoices and < HttpStatusCode.BadRequest =>
                $"{to.Beginning} sent us to another address ({response.Headers.Location}), and nothing goes where nobody said it should. Give its connection the new address.",
            _ => null,
        };

    /// <summary>Whether it was refused: too many requests and a request that timed out are worth another try, the other client errors are not.</summary>
    public static bool IsRefusal(HttpStatusCode status) =>
        (int)status is >= 400 and < 500 && status is not (HttpStatusCode.RequestTimeout or HttpStatusCode.TooManyRequests);

    /// <summary>Whether an exception is the trouble of the network.</summary>
    public static bool IsTrouble(Exception e, CancellationToken cancel) =>
        e is HttpRequestException or IOException or TaskCanceledException && !cancel.IsCancellationRequested;
}
