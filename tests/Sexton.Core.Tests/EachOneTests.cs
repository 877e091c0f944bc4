using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Catalogue;
using Sexton.Core.Register;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>Each one of many: how many a line takes, and what is asked of some of them and not of others.</summary>
public sealed class EachOneTests
{
    [Theory]
    // the field's own number, the product's, the greatest quantity
    [InlineData(null, null, 60)]
    [InlineData(12, null, 12)]
    [InlineData(null, 20, 20)]
    [InlineData(12, 20, 12)]
    [InlineData(30, 20, 20)]
    [InlineData(999, 999, 60)]
    [InlineData(1, null, 1)]
    public void The_smallest_of_what_field_product_and_cart_take_is_the_most(int? ofField, int? ofProduct, int most)
    {
        var all = Fixture.Products;
        var products = new ProductIndex(
            [.. all.All.Select(p => p.Code == "WALK" ? p with { MostEach = ofProduct } : p)],
            all.Groups,
            all.Currency,
            all.HomeCountry
        );
        var plan = Fixture.Plan(
            Fixture.AskUnit("badge", "line_text") with
            {
                MostEach = ofField,
            },
            // One that the product is not asked says nothing of it.
            Fixture.AskUnit("stamp", "line_text") with
            {
                AskedOf = ProductScope.Only("LABEL"),
                MostEach = 1,
            }
        );
        Evaluation Of(int quantity) =>
            Evaluation.Of(plan, products, plan.WithUnits(products, Fixture.Of(Fixture.Line("WALK", quantity))), Fixture.Today);

        Of(1).Facts.MostEach(0).ShouldBe(most);
        Of(most).Asked.Count(a => a.Field.Key == "badge").ShouldBe(most);
        Of(most).Problems.ShouldNotContain(p => p.Refusal.Key == "too_many_each");
        Of(most + 1).Problems.ShouldContain(p => p.Refusal.Key == "too_many_each" && p.Refusal.First == $"{most}");
        Of(most + 1).Asked.ShouldNotContain(a => a.Field.Key == "badge");
        Should.Throw<CartException>(() =>
            CartContent.Empty.Add(plan.WithUnits(products, Fixture.Line("WALK", most + 1)), static l => l.Answers)
        );
    }

    [Fact]
    public void A_number_that_was_lowered_behind_a_cart_keeps_what_was_typed_until_the_shopper_says_who_goes()
    {
        var before = Fixture.Plan(Fixture.AskUnit("badge", "line_text"));
        var line = before.WithUnits(Fixture.Products, Fixture.Line("WALK", 4));
        line = line with { Units = [.. line.Units.Select(u => u with { Answers = AnswerSet.Of([new("badge", AnswerValue.Of(u.Id))]) })] };
        var after = Fixture.Plan(Fixture.AskUnit("badge", "line_text") with { MostEach = 3 });
        var cart = after.WithUnits(Fixture.Products, Fixture.Of(line));
        cart.Lines[0].Units.Select(u => u.Answers.Find("badge")!.Text).ShouldBe(["u1", "u2", "u3", "u4"]);
        Fixture.Evaluate(after, cart).Problems.Single().Refusal.Key.ShouldBe("too_many_each");
        cart.Change(
                after.WithUnits(Fixture.Products, cart.Lines[0] with { Quantity = 3, Units = [.. line.Units.Where(u => u.Id != "u2")] })
            )
            .Lines[0]
            .Units.Select(u => u.Id)
            .ShouldBe(["u1", "u3", "u4"]);
    }

    [Theory]
    // how many there are to be while none is asked, and whose answers are there once each is asked again
    [InlineData(3, "u1 u2 u3")]
    [InlineData(5, "u1 u2 u3 - -")]
    [InlineData(2, "u1 u2")]
    [InlineData(100, "u1 u2 u3", true)]
    public void What_was_answered_of_each_outlives_a_change_of_the_line_while_none_is_asked(
        int quantity,
        string after,
        bool isTooMany = false
    )
    {
        var asked = Fixture.Plan(Fixture.AskUnit("badge", "line_text"));
        var none = Fixture.Plan(Fixture.Ask("wording", "line_text"));
        var line = asked.WithUnits(Fixture.Products, Fixture.Line("WALK", 3));
        line = line with { Units = [.. line.Units.Select(u => u with { Answers = AnswerSet.Of([new("badge", AnswerValue.Of(u.Id))]) })] };
        var cart = Fixture.Of(line);
        cart = cart.Change(none.Kept(Fixture.Products, cart.Lines[0].Resize(quantity, [], new LineAnswers("l1", AnswerSet.Empty, []))));
        none.WithUnits(Fixture.Products, cart).Lines[0].Units.ShouldBeEmpty("none is asked");
        var again = asked.WithUnits(Fixture.Products, cart);
        string.Join(' ', again.Lines[0].Units.Select(static u => u.Answers.Find("badge")?.Text ?? "-")).ShouldBe(after);
        Fixture.Evaluate(asked, again).Problems.Any(static p => p.Refusal.Key == "too_many_each").ShouldBe(isTooMany);
    }

    [Theory]
    // what pace each of three is given, when the guide's language is asked, why it is not asked of the first
    [InlineData("slow,fast,fast", "{'of':'answer.pace','is':'fast'}", "Not asked, as “The pace” is slow.")]
    [InlineData(",fast,fast", "{'of':'answer.pace','is':'fast'}", "Not asked until “The pace” is filled in.")]
    [InlineData(
        "slow,fast,fast",
        "{'either':[{'of':'answer.pace','is':'fast'},{'of':'quantity','over':9}]}",
        "Not asked, as “The pace” is slow."
    )]
    [InlineData(
        "slow,fast,fast",
        "{'together':[{'of':'group','is':'household'},{'of':'answer.pace','is':'fast'}]}",
        "Not asked, as “The pace” is slow."
    )]
    [InlineData("fast,slow,slow", "{'neither':[{'of':'answer.pace','is':'fast'}]}", "Not asked, as “The pace” is fast.")]
    public void What_is_not_asked_of_one_says_by_which_answer(string paces, string when, string why)
    {
        var plan = Fixture.Plan(
            Fixture.AskUnit("pace", "line_text"),
            Fixture.AskUnit("tongue", "line_text") with
            {
                When = Fixture.Condition(when),
            }
        );
        var line = plan.WithUnits(Fixture.Products, Fixture.Line("WALK", 3));
        line = line with
        {
            Units =
            [
                .. line.Units.Zip(
                    paces.Split(','),
                    static (u, pace) => u with { Answers = AnswerSet.Of([new("pace", AnswerValue.Of(pace))]) }
                ),
            ],
        };
        var told = new NotAskedOfSome(Fixture.Evaluate(plan, Fixture.Of(line)).Facts).Of(0).Single();
        (told.Field.Key, told.LineId, told.Why, string.Join(' ', told.UnitIds)).ShouldBe(("tongue", "l1", why, "u1"));

        // What nobody is asked needs no hole.
        var none = line with
        {
            Units = [.. line.Units.Select(u => u with { Answers = line.Units[0].Answers })],
        };
        new NotAskedOfSome(Fixture.Evaluate(plan, Fixture.Of(none)).Facts).Of(0).ShouldBeEmpty();
    }
}
