using Sexton.Core.Trail;

namespace Sexton.Core.Tests;

/// <summary>How a payload goes from state to state.</summary>
public sealed class LaneTests
{
    [Theory]
    // how the try ended, tries made, an acknowledgement lost before → state, lost now or before, tried again
    [InlineData(SendOutcome.Taken, 1, false, DeliveryState.Sent, false, false)]
    [InlineData(SendOutcome.Taken, 3, true, DeliveryState.Sent, true, false)]
    [InlineData(SendOutcome.Refused, 1, false, DeliveryState.Refused, false, false)]
    [InlineData(SendOutcome.Refused, 2, true, DeliveryState.Refused, true, false)]
    [InlineData(SendOutcome.NotTaken, 1, false, DeliveryState.Waiting, false, true)]
    [InlineData(SendOutcome.NotTaken, 19, false, DeliveryState.Waiting, false, true)]
    [InlineData(SendOutcome.NotTaken, 20, false, DeliveryState.NeedsAttention, false, false)]
    [InlineData(SendOutcome.NotTaken, 2, true, DeliveryState.Uncertain, true, true)]
    [InlineData(SendOutcome.NotTaken, 20, true, DeliveryState.NeedsAttention, true, false)]
    [InlineData(SendOutcome.TakenUnread, 1, false, DeliveryState.Waiting, false, true)]
    [InlineData(SendOutcome.TakenUnread, 20, false, DeliveryState.NeedsAttention, false, false)]
    [InlineData(SendOutcome.Lost, 1, false, DeliveryState.Uncertain, true, true)]
    [InlineData(SendOutcome.Lost, 20, false, DeliveryState.Uncertain, true, true)]
    [InlineData(SendOutcome.Lost, 2, true, DeliveryState.Uncertain, true, false)]
    public void After_a_try(SendOutcome outcome, int tries, bool wasUncertain, DeliveryState state, bool isUncertain, bool again)
    {
        var step = LaneTransitions.After(outcome, tries, wasUncertain, jitter: 0);
        (step.State, step.WasUncertain, step.IsSettled).ShouldBe((state, isUncertain, !again));
        (step.Pause > TimeSpan.Zero).ShouldBe(again);
    }

    [Fact]
    public void A_lost_hand_over_is_sent_once_more_and_never_a_third_time()
    {
        var first = LaneTransitions.AfterLostHandOver(wasUncertain: false);
        (first.State, first.WasUncertain, first.IsSettled).ShouldBe((DeliveryState.Uncertain, true, false));
        var second = LaneTransitions.AfterLostHandOver(first.WasUncertain);
        (second.State, second.WasUncertain, second.IsSettled).ShouldBe((DeliveryState.Uncertain, true, true));
    }

    [Theory]
    // how the payload ended; whether the lane goes on where it takes states, and where it takes events
    [InlineData(DeliveryState.Sent, true, true)]
    [InlineData(DeliveryState.Uncertain, true, true)]
    [InlineData(DeliveryState.Refused, true, false)]
    [InlineData(DeliveryState.NeedsAttention, true, false)]
    public void What_goes_on_after_a_payload_ended(DeliveryState state, bool ofStates, bool ofEvents) =>
        (LaneTransitions.GoesOn(state, replaces: true), LaneTransitions.GoesOn(state, replaces: false)).ShouldBe((ofStates, ofEvents));

    [Theory]
    // the one that is over, the newest wanted; which follows where it takes states, and where it takes events
    [InlineData(1, 1, 1, 1)]
    [InlineData(1, 2, 2, 2)]
    [InlineData(1, 5, 5, 2)]
    [InlineData(4, 5, 5, 5)]
    public void Which_payload_follows(int sequence, int wanted, int ofStates, int ofEvents) =>
        (LaneTransitions.Next(sequence, wanted, replaces: true), LaneTransitions.Next(sequence, wanted, replaces: false)).ShouldBe(
            (ofStates, ofEvents)
        );

    [Fact]
    public void Only_what_was_refused_given_up_or_waits_can_be_sent_again() =>
        Enum.GetValues<DeliveryState>()
            .Where(LaneTransitions.CanBeSentAgain)
            .ShouldBe([DeliveryState.Waiting, DeliveryState.Refused, DeliveryState.NeedsAttention]);

    [Theory]
    // how the newest payload of a paper stands, its number, the newest wanted; what a message that carries it does
    [InlineData(DeliveryState.NotReleased, 1, 1, PaperToCarry.Awaited)]
    [InlineData(DeliveryState.Waiting, 1, 1, PaperToCarry.Awaited)]
    [InlineData(DeliveryState.Sending, 1, 1, PaperToCarry.Awaited)]
    [InlineData(DeliveryState.Sent, 1, 1, PaperToCarry.Ready)]
    [InlineData(DeliveryState.Sent, 1, 2, PaperToCarry.Awaited)]
    [InlineData(DeliveryState.Waiting, 2, 2, PaperToCarry.Awaited)]
    [InlineData(DeliveryState.Sent, 2, 2, PaperToCarry.Ready)]
    [InlineData(DeliveryState.NeedsAttention, 1, 1, PaperToCarry.Awaited)]
    [InlineData(DeliveryState.Refused, 1, 1, PaperToCarry.Awaited)]
    [InlineData(DeliveryState.SettledByHand, 1, 1, PaperToCarry.None)]
    [InlineData(DeliveryState.Withdrawn, 1, 1, PaperToCarry.None)]
    [InlineData(DeliveryState.Waiting, 0, 0, PaperToCarry.None)]
    public void A_message_goes_with_the_newest_of_its_papers_and_waits_for_what_may_still_come(
        DeliveryState state,
        int sequence,
        int wanted,
        PaperToCarry carried
    ) => CarryingRule.Of(state, sequence, wanted).ShouldBe(carried);
}
