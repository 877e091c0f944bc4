namespace Sexton.Core.Trail;

/// <summary>When a delivery is tried again: exponential back-off with jitter, then somebody is called.</summary>
public static class RetrySchedule
{
    /// <summary>After so many tries the delivery needs attention: with the longest pauses about two and a half hours.</summary>
    public const int MostTries = 20;

    private static readonly TimeSpan Longest = TimeSpan.FromMinutes(10);

    /// <summary>
    /// The pause after a failed try: half to the whole of 1 s × 2^(tries − 1), at most 10 minutes; null when no more tries are made.
    /// </summary>
    /// <param name="tries">How many tries were made; at least 1.</param>
    /// <param name="jitter">A random number from 0 to 1.</param>
    public static TimeSpan? PauseAfter(int tries, double jitter)
    {
        if (tries >= MostTries)
        {
            return null;
        }

        var whole = TimeSpan.FromSeconds(Math.Min(Math.Pow(2, tries - 1), Longest.TotalSeconds));
        return whole * (0.5 + (jitter / 2));
    }
}
