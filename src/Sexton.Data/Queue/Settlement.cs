using Sexton.Data.Rows;

namespace Sexton.Data.Queue;

/// <summary>How a try ended.</summary>
/// <param name="Claimed">The lane as it is to become, with the fence of the claim.</param>
/// <param name="Replaces">Whether a newer payload replaces one that was not sent.</param>
/// <param name="Attempt">The try.</param>
/// <param name="Payload">The payload; null to leave it as it is.</param>
/// <param name="Findings">What differs; empty where all agrees or nothing was read back.</param>
/// <param name="Told">The destinations that are told that it arrived; none where it did not.</param>
/// <param name="Carriers">The destinations whose messages carry it, where it is a paper that arrived.</param>
public sealed record Settlement(
    LaneRow Claimed,
    bool Replaces,
    TryRow Attempt,
    PayloadRow? Payload,
    IReadOnlyList<FindingRow> Findings,
    string[] Told,
    string[] Carriers
);
