using Sexton.Core.Checks;
using Sexton.Core.Register;
using Sexton.Core.Register.Types;
using Sexton.Core.Routing;

namespace Sexton.Core.Tests;

/// <summary>What each destination gets, and the checks over routes.</summary>
public sealed class RoutingTests
{
    [Theory]
    // destination, the slots it gets
    [InlineData("cart_line", "line/l1/wording")]
    [InlineData("confirmation", "line/l1/wording order/name order/email order/delivery_address")]
    [InlineData("back_office", "line/l1/wording order/name order/email order/delivery_address")]
    public void A_destination_gets_what_was_given_and_goes_there(string destination, string slots)
    {
        var order = Fixture.Evaluate(Fixture.Cart("Zoë"), Fixture.Wording()).Freeze(1, "en");
        var projection = Projector.Project(order, Fixture.Register(Fixture.Wording()), destination);
        string.Join(' ', projection.Entries.Select(e => e.Slot)).ShouldBe(slots);
    }

    [Fact]
    public void Routes_follow_the_current_register_and_texts_the_order()
    {
        var order = Fixture.Evaluate(Fixture.Cart("Zoë"), Fixture.Wording()).Freeze(1, "en");
        var now = Fixture.Wording() with { Label = LanguageMap.Of("Another label"), GoesTo = ["confirmation"] };
        Projector.Project(order, Fixture.Register(now), "shopper_email").Entries.ShouldNotContain(e => e.Field == "wording");
        Projector.Project(order, Fixture.Register(now), "confirmation").Entries[0].Name.ShouldBe("Words on the label");
    }

    [Theory]
    [InlineData(60, null)]
    [InlineData(61, "longer_than_taken")]
    public void A_destination_that_takes_less_is_a_problem_with_its_remedies(int longest, string? code)
    {
        var problem = Problems(Fixture.Wording(longest)).SingleOrDefault();
        problem?.Code.ShouldBe(code);
        (problem is null).ShouldBe(code is null);
        foreach (var remedy in problem?.Remedies ?? [])
        {
            Problems(DraftEdit.Apply(Fixture.Wording(longest), remedy.Setting, remedy.Value)).ShouldBeEmpty(remedy.Label);
        }
    }

    [Fact]
    public void A_field_asked_of_nothing_or_of_what_is_not_sold_is_a_problem()
    {
        Problems(Fixture.Wording() with { AskedOf = ProductScope.Only() }).Single().Code.ShouldBe("asked_of_nothing");
        var unknown = Fixture.Wording() with { AskedOf = ProductScope.Only("LABEL", "GONE") };
        var problem = Problems(unknown).Single();
        problem.Code.ShouldBe("asked_of_unknown");
        Problems(DraftEdit.Apply(unknown, problem.Remedies[0].Setting, problem.Remedies[0].Value)).ShouldBeEmpty();
    }

    [Fact]
    public void A_field_that_goes_nowhere_is_a_problem() =>
        Problems(Fixture.Wording() with { GoesTo = [] }).Single().Code.ShouldBe("goes_nowhere");

    [Fact]
    public void The_built_in_fields_have_no_problem() => Problems().ShouldBeEmpty();

    private static IEnumerable<Problem> Problems(params Field[] fields) =>
        DraftChecks.Run(RegisterPlan.Compile(Fixture.Register(fields), FieldTypes.Standard), Fixture.Products);
}
