using System.Globalization;
using System.Threading.RateLimiting;

namespace Sexton.Server.Common;

/// <summary>Work that anybody can ask for without being known, and that takes room or time.</summary>
internal enum LimitedWork
{
    /// <summary>New carts.</summary>
    Carts,

    /// <summary>Files begun.</summary>
    Uploads,

    /// <summary>Evaluations.</summary>
    Evaluations,

    /// <summary>Tries to sign in to the console.</summary>
    SignIns,

    /// <summary>Sign-in links by e-mail.</summary>
    Links,
}

/// <summary>
/// How much of each kind of work one address may ask for, and all together, in a minute: tokens that come back evenly, so that whoever asks too much waits for
/// seconds and not for minutes. Counted in each process for itself.
/// </summary>
internal sealed class RequestLimits(SextonOptions options) : IDisposable
{
    private readonly Dictionary<LimitedWork, PartitionedRateLimiter<string>> _limiters = Enum.GetValues<LimitedWork>()
        .ToDictionary(static work => work, work => Of(options.Limits.Of(work)));

    /// <summary>Counts one, and refuses it where that is too much.</summary>
    /// <param name="work">What is asked for.</param>
    /// <param name="http">Who asks.</param>
    /// <param name="cancel">Cancels.</param>
    /// <param name="whose">Tells apart what one address asks for whom; "" for nobody.</param>
    /// <exception cref="ApiProblemException">It is too much: 429, with when to try again.</exception>
    public async Task PassAsync(LimitedWork work, HttpContext http, CancellationToken cancel, string whose = "")
    {
        using var lease = await _limiters[work].AcquireAsync($"{http.Connection.RemoteIpAddress}/{whose}", 1, cancel);
        if (!lease.IsAcquired)
        {
            var seconds = (int)
                Math.Ceiling((lease.TryGetMetadata(MetadataName.RetryAfter, out var wait) ? wait : TimeSpan.FromSeconds(1)).TotalSeconds);
            http.Response.Headers.RetryAfter = seconds.ToString(CultureInfo.InvariantCulture);
            throw ApiProblemException.Said(
                StatusCodes.Status429TooManyRequests,
                "too_many",
                seconds == 1 ? "too_many_one" : "too_many_many",
                seconds.ToString(CultureInfo.InvariantCulture)
            );
        }
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        foreach (var limiter in _limiters.Values)
        {
            limiter.Dispose();
        }
    }

    private static PartitionedRateLimiter<string> Of(RateLimit limit) =>
        PartitionedRateLimiter.CreateChained(
            PartitionedRateLimiter.Create<string, string>(address =>
                RateLimitPartition.GetTokenBucketLimiter(address, _ => Bucket(limit.Each))
            ),
            PartitionedRateLimiter.Create<string, string>(_ => RateLimitPartition.GetTokenBucketLimiter("", _ => Bucket(limit.All)))
        );

    private static TokenBucketRateLimiterOptions Bucket(int aMinute)
    {
        var atATime = Math.Max(1, aMinute / 60);
        return new()
        {
            TokenLimit = aMinute,
            TokensPerPeriod = atATime,
            ReplenishmentPeriod = TimeSpan.FromMinutes((double)atATime / aMinute),
            QueueLimit = 0,
            AutoReplenishment = true,
        };
    }
}

/// <summary>How much in a minute.</summary>
/// <param name="Each">For one address.</param>
/// <param name="All">For all together.</param>
internal sealed record RateLimit(int Each, int All);

/// <summary>The limits of an installation: SEXTON__LIMITS__CARTS__EACH and so on.</summary>
internal sealed class RateLimitOptions
{
    /// <summary>New carts.</summary>
    public RateLimit Carts { get; set; } = new(60, 3_000);

    /// <summary>Files begun.</summary>
    public RateLimit Uploads { get; set; } = new(120, 3_000);

    /// <summary>Evaluations: one at each pause in typing.</summary>
    public RateLimit Evaluations { get; set; } = new(1_200, 60_000);

    /// <summary>Tries to sign in to the console, of one address to one account.</summary>
    public RateLimit SignIns { get; set; } = new(10, 300);

    /// <summary>Sign-in links.</summary>
    public RateLimit Links { get; set; } = new(20, 600);

    /// <summary>The limit of a kind of work.</summary>
    public RateLimit Of(LimitedWork work) =>
        work switch
        {
            LimitedWork.Carts => Carts,
            LimitedWork.Uploads => Uploads,
            LimitedWork.Evaluations => Evaluations,
            LimitedWork.SignIns => SignIns,
            _ => Links,
        };
}
