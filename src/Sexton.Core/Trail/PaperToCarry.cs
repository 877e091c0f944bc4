namespace Sexton.Core.Trail;

/// <summary>What a message that carries a paper does about it.</summary>
public enum PaperToCarry
{
    /// <summary>Nothing: there is none, or nothing more is to be done about it.</summary>
    None,

    /// <summary>It waits: the paper is still to come, or stuck and may be mended.</summary>
    Awaited,

    /// <summary>It goes with it.</summary>
    Ready,
}

/// <summary>Says what a message does about a paper that it carries.</summary>
public static class CarryingRule
{
    /// <summary>By how the paper stands.</summary>
    /// <param name="state">Where its newest payload in flight stands.</param>
    /// <param name="sequence">The number of that payload; 0 while nothing happened of which there is a paper.</param>
    /// <param name="wanted">The number of the newest payload that is wanted.</param>
    public static PaperToCarry Of(DeliveryState state, int sequence, int wanted) =>
        state switch
        {
            DeliveryState.Withdrawn or DeliveryState.SettledByHand => PaperToCarry.None,
            _ when wanted == 0 => PaperToCarry.None,
            DeliveryState.Sent when sequence == wanted => PaperToCarry.Ready,
            _ => PaperToCarry.Awaited,
        };
}
