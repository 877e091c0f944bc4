using Sexton.Core.Facts;
using Sexton.Core.Orders;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>Findings, signs, pauses, and differences in words.</summary>
public sealed class TrailTests
{
    [Theory]
    [InlineData(Expectation.NotRouted, Finding.None, DeliveryState.Sent, Sign.Nothing)]
    [InlineData(Expectation.LeftEmpty, Finding.None, DeliveryState.Sent, Sign.Nothing)]
    [InlineData(Expectation.Verbatim, Finding.None, null, Sign.OpenSheet)]
    [InlineData(Expectation.Verbatim, Finding.None, DeliveryState.Waiting, Sign.OpenSheet)]
    [InlineData(Expectation.Verbatim, Finding.None, DeliveryState.Sending, Sign.OpenSheet)]
    [InlineData(Expectation.Verbatim, Finding.None, DeliveryState.Uncertain, Sign.OpenSheet)]
    [InlineData(Expectation.Verbatim, Finding.None, DeliveryState.Refused, Sign.RaisedFlag)]
    [InlineData(Expectation.Verbatim, Finding.None, DeliveryState.NeedsAttention, Sign.RaisedFlag)]
    [InlineData(Expectation.Verbatim, Finding.Shown, null, Sign.FoldedSheet)]
    [InlineData(Expectation.Verbatim, Finding.Included, DeliveryState.Sent, Sign.FoldedSheet)]
    [InlineData(Expectation.Verbatim, Finding.Confirmed, DeliveryState.Sent, Sign.SealedSheet)]
    [InlineData(Expectation.Verbatim, Finding.Altered, DeliveryState.Sent, Sign.TornSheet)]
    [InlineData(Expectation.Verbatim, Finding.Missing, DeliveryState.Sent, Sign.DottedOutline)]
    [InlineData(Expectation.Verbatim, Finding.NotProvable, DeliveryState.Sent, Sign.RaisedFlag)]
    // What is wrong with bytes that are there comes before what became of a try; that somebody is wanted before what is well.
    [InlineData(Expectation.Verbatim, Finding.Altered, DeliveryState.Refused, Sign.TornSheet)]
    [InlineData(Expectation.Verbatim, Finding.Missing, DeliveryState.NeedsAttention, Sign.DottedOutline)]
    [InlineData(Expectation.Verbatim, Finding.Confirmed, DeliveryState.Refused, Sign.RaisedFlag)]
    [InlineData(Expectation.Verbatim, Finding.Included, DeliveryState.NeedsAttention, Sign.RaisedFlag)]
    [InlineData(Expectation.Verbatim, Finding.Confirmed, DeliveryState.Waiting, Sign.SealedSheet)]
    [InlineData(Expectation.Adapted, Finding.Confirmed, DeliveryState.Sent, Sign.CutSealedSheet)]
    [InlineData(Expectation.Adapted, Finding.Included, DeliveryState.Sent, Sign.CutFoldedSheet)]
    [InlineData(Expectation.Adapted, Finding.Altered, DeliveryState.Sent, Sign.TornSheet)]
    [InlineData(Expectation.Adapted, Finding.None, DeliveryState.NotReleased, Sign.OpenSheet)]
    [InlineData(Expectation.NoLongerAsked, Finding.Altered, DeliveryState.Sent, Sign.StruckLine)]
    [InlineData(Expectation.LeftOut, Finding.None, DeliveryState.Refused, Sign.FlaggedHole)]
    public void The_sign_follows_from_expectation_finding_and_delivery(
        Expectation expectation,
        Finding finding,
        DeliveryState? delivery,
        Sign sign
    ) => TrailSign.Of(expectation, finding, delivery).ShouldBe(sign);

    [Theory]
    // whether it was answered, whether it goes there, whether the route is left out
    [InlineData(true, true, false, Expectation.Verbatim)]
    [InlineData(true, true, true, Expectation.Verbatim)] // sent before it was left out: what was sent counts
    [InlineData(true, false, true, Expectation.LeftOut)]
    [InlineData(true, false, false, Expectation.NotRouted)]
    [InlineData(false, true, false, Expectation.LeftEmpty)]
    [InlineData(false, false, true, Expectation.LeftEmpty)]
    public void What_is_expected_of_an_answer(bool isGiven, bool goesThere, bool isLeftOut, Expectation expectation)
    {
        var plan = Fixture.Plan(Fixture.Ask("wording", "line_text") with { LeftOut = isLeftOut ? ["back_office"] : [] });
        var answer = new OrderAnswer("l1", null, "wording", "Words", isGiven ? AnswerValue.Of("x") : null, isGiven ? "x" : "");
        var expected = new Projection(goesThere ? [new Entry("l1", null, "wording", "Words", "x")] : []);
        new DestinationFindings("back_office", expected, []).ExpectationOf(answer, plan).ShouldBe(expectation);
        var adapted = new Projection([.. expected.Entries.Select(static e => e with { Text = "…", Given = "x" })]);
        new DestinationFindings("back_office", adapted, [])
            .ExpectationOf(answer, plan)
            .ShouldBe(expectation == Expectation.Verbatim ? Expectation.Adapted : expectation);
        new DestinationFindings("back_office", expected, [])
            .ExpectationOf(answer, Fixture.Plan())
            .ShouldBe(expectation == Expectation.LeftOut ? Expectation.NotRouted : expectation);
    }

    [Theory]
    // what its parts say ("" for nothing), what was found of all others, whether it was expected
    [InlineData("", Finding.Confirmed, true, Finding.Confirmed)]
    [InlineData("", Finding.Confirmed, false, Finding.None)]
    [InlineData("", Finding.None, true, Finding.None)]
    [InlineData("Altered", Finding.Confirmed, true, Finding.Altered)]
    [InlineData("Included,Missing", Finding.Included, true, Finding.Missing)]
    [InlineData("Missing,Included", Finding.Included, true, Finding.Missing)]
    public void What_was_found_of_an_answer_is_the_worst_that_any_part_says(string parts, Finding agreed, bool isExpected, Finding finding)
    {
        var slot = SlotId.Of("l1", "u2", "wording");
        var findings = parts
            .Split(',', StringSplitOptions.RemoveEmptyEntries)
            .Select(p => new SlotFinding(slot.ToString(), p, "x", "y", Enum.Parse<Finding>(p)))
            .Append(new SlotFinding("line/l1/other", "html", "x", null, Finding.NotProvable));
        var there = new DestinationFindings(
            "shopper_email",
            new Projection(isExpected ? [new Entry("l1", "u2", "wording", "Words", "x")] : []),
            [.. findings]
        )
        {
            Agreed = agreed,
        };
        there.FindingOf(slot).ShouldBe(finding);
    }

    [Fact]
    public void A_cart_page_is_judged_by_what_was_ordered()
    {
        var cart = Fixture.Of(Fixture.Line("LABEL", 1, ("wording", "Zoë")), Fixture.Line("LABEL", 1, ("wording", "Bram")));
        var shown = Projector.Project(Fixture.Evaluate(cart, Fixture.Wording()), "cart_line");
        shown.Entries.Select(static e => e.Text).ShouldBe(["Zoë", "Bram"]);

        // The first was changed after the page was served, the second was taken out.
        var order = Fixture.Order(Fixture.Evaluate(Fixture.Of(Fixture.Line("LABEL", 1, ("wording", "Odile"))), Fixture.Wording()));
        shown.AsOrdered(order).Entries.Select(static e => (e.LineId, e.Text)).ShouldBe([("l1", "Odile")]);
        shown.Slots.ShouldBe([SlotId.Of("l1", null, "wording"), SlotId.Of("l2", null, "wording")]);
    }

    [Theory]
    // expected, found (null: no such slot), ceiling, finding
    [InlineData("1", "1", Evidence.Confirmed, Finding.Confirmed)]
    [InlineData("1", "1", Evidence.Included, Finding.Included)]
    [InlineData("1", "1", Evidence.Shown, Finding.Shown)]
    [InlineData("1", "10", Evidence.Confirmed, Finding.Altered)]
    [InlineData("1", "", Evidence.Confirmed, Finding.Altered)]
    [InlineData("Zo\u00eb", "Zoe\u0308", Evidence.Confirmed, Finding.Altered)] // to the character, not to the eye
    [InlineData("1", null, Evidence.Confirmed, Finding.Missing)]
    public void A_finding_is_a_comparison_of_one_place(string expected, string? found, Evidence ceiling, Finding finding)
    {
        var entry = new Entry("l1", null, "wording", "Words", expected);
        var texts = new Dictionary<SlotId, string> { [SlotId.Of("l2", null, "wording")] = expected };
        if (found is not null)
        {
            texts[entry.Slot] = found;
        }

        SlotFinding.Judge(new Projection([entry]), "html", texts, ceiling).Single().Finding.ShouldBe(finding);
    }

    [Fact]
    public void The_worst_of_several_parts_counts()
    {
        SlotFinding.Worst([Finding.Included, Finding.Missing]).ShouldBe(Finding.Missing);
        SlotFinding.Worst([Finding.Altered, Finding.Included]).ShouldBe(Finding.Altered);
        SlotFinding.Worst([]).ShouldBe(Finding.None);
    }

    [Theory]
    // tries made, whole pause in seconds (0: no more)
    [InlineData(1, 1)]
    [InlineData(2, 2)]
    [InlineData(5, 16)]
    [InlineData(10, 512)]
    [InlineData(11, 600)]
    [InlineData(19, 600)]
    [InlineData(20, 0)]
    public void Pauses_grow_and_end(int tries, int seconds)
    {
        RetrySchedule.PauseAfter(tries, 1).ShouldBe(seconds == 0 ? null : TimeSpan.FromSeconds(seconds));
        RetrySchedule.PauseAfter(tries, 0).ShouldBe(seconds == 0 ? null : TimeSpan.FromSeconds(seconds) / 2);
    }

    [Theory]
    [InlineData("a🌿b", "ab", "“🌿” is missing at character 2.")]
    [InlineData("ab", "a b", "“ ” was added at character 2.")]
    [InlineData("Zoë", "Zoe", "“e” stands in place of “ë” at character 3.")]
    [InlineData("a", "a", "")]
    [InlineData("a", null, "It is not there.")]
    public void A_difference_is_told_in_words(string expected, string? found, string sentence) =>
        TextDifference.Describe(expected, found).ShouldBe(sentence);
}
