using System.Runtime.InteropServices;

namespace Sexton.Core.Trail;

/// <summary>What becomes of a payload.</summary>
/// <param name="State">Where it stands.</param>
/// <param name="WasUncertain">Whether an acknowledgement was lost, so that at most one further copy is sent.</param>
/// <param name="Pause">After which time it is tried again; null where it is settled.</param>
[StructLayout(LayoutKind.Auto)]
public readonly record struct LaneStep(DeliveryState State, bool WasUncertain, TimeSpan? Pause)
{
    /// <summary>Whether nothing more is done about it by itself.</summary>
    public bool IsSettled => Pause is null;
}

/// <summary>How a payload goes from state to state: one pure function for each thing that can happen.</summary>
public static class LaneTransitions
{
    /// <summary>After a try.</summary>
    /// <param name="outcome">How it ended.</param>
    /// <param name="tries">How many tries were made, this one among them; at least 1.</param>
    /// <param name="wasUncertain">Whether an acknowledgement was lost before.</param>
    /// <param name="jitter">A random number from 0 to 1.</param>
    /// <example><code>LaneTransitions.After(SendOutcome.Taken, tries: 1, wasUncertain: false, jitter: 0) // sent, and settled</code></example>
    public static LaneStep After(SendOutcome outcome, int tries, bool wasUncertain, double jitter) =>
        outcome switch
        {
            SendOutcome.Taken => new(DeliveryState.Sent, wasUncertain, null),
            SendOutcome.Refused => new(DeliveryState.Refused, wasUncertain, null),
            SendOutcome.Stopped => new(DeliveryState.NeedsAttention, wasUncertain, null),
            SendOutcome.Lost when wasUncertain => new(DeliveryState.Uncertain, true, null),
            SendOutcome.Lost => new(DeliveryState.Uncertain, true, RetrySchedule.PauseAfter(1, jitter)),
            _ => RetrySchedule.PauseAfter(tries, jitter) is { } pause
                ? new(wasUncertain ? DeliveryState.Uncertain : DeliveryState.Waiting, wasUncertain, pause)
                : new(DeliveryState.NeedsAttention, wasUncertain, null),
        };

    /// <summary>
    /// When it is claimed and the hand-over before has nothing on record of how it ended: it is sent once more, and if that happened before, it stays uncertain.
    /// </summary>
    /// <param name="wasUncertain">Whether an acknowledgement was lost before.</param>
    public static LaneStep AfterLostHandOver(bool wasUncertain) => new(DeliveryState.Uncertain, true, wasUncertain ? null : TimeSpan.Zero);

    /// <summary>
    /// Whether a lane goes on to the next payload that is wanted, once one is settled: where the destination takes states whatever became of it, and where it
    /// takes events only when it went or somebody settled it, for none may be left out.
    /// </summary>
    /// <param name="state">How the payload ended.</param>
    /// <param name="replaces">Whether a newer payload replaces one that was not sent.</param>
    public static bool GoesOn(DeliveryState state, bool replaces) =>
        replaces || state is DeliveryState.Sent or DeliveryState.Uncertain or DeliveryState.SettledByHand;

    /// <summary>Which payload follows: the newest where the destination takes states, and the next in turn where it takes events.</summary>
    /// <param name="sequence">The one that is over.</param>
    /// <param name="wanted">The newest that is wanted; at least as great.</param>
    /// <param name="replaces">Whether a newer payload replaces one that was not sent.</param>
    public static int Next(int sequence, int wanted, bool replaces) => replaces ? wanted : Math.Min(sequence + 1, wanted);

    /// <summary>
    /// Whether it can be sent again by hand: an uncertain message is not sent a third time, and one that was taken not a second; only what was refused or given
    /// up, and what waits is sent at once.
    /// </summary>
    /// <param name="state">Where it stands.</param>
    public static bool CanBeSentAgain(DeliveryState state) =>
        state is DeliveryState.Refused or DeliveryState.NeedsAttention or DeliveryState.Waiting;
}
