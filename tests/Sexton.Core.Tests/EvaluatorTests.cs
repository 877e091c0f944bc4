using CsCheck;
using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Register;

namespace Sexton.Core.Tests;

/// <summary>What is asked, what is wrong, what it costs, and what is frozen.</summary>
public sealed class EvaluatorTests
{
    [Theory]
    // entered (null: no answer), required, problem, sentence
    [InlineData(null, true, "required", "Please fill in “Words on the label”.")]
    [InlineData("  ", true, "required", "Please fill in “Words on the label”.")]
    [InlineData(null, false, null, null)]
    [InlineData("", false, null, null)]
    [InlineData("Zoë", true, null, null)]
    [InlineData("123456", true, "too_long", "“Words on the label” has room for 5 characters, and this is 6.")]
    [InlineData("a\tb", true, null, null)]
    [InlineData("a\nb", true, "line_break", "“Words on the label” goes on one line. Take the line break out.")]
    public void A_wording_is_checked(string? entered, bool required, string? code, string? sentence)
    {
        var problem = Fixture.Evaluate(Fixture.Cart(entered), Fixture.Wording(5, required)).Problems.SingleOrDefault();
        problem?.Code.ShouldBe(code);
        problem?.Sentence.ShouldBe(sentence);
        (problem is null).ShouldBe(code is null);
        if (problem is not null)
        {
            (problem.Field, problem.LineId, problem.Step).ShouldBe(("wording", "l1", "product_page"));
        }
    }

    [Fact]
    public void A_field_is_asked_of_its_products_only()
    {
        var cart = Fixture.Cart("Zoë");
        var both = cart with { Lines = cart.Lines.Add(new CartLine("l2", "TREE", 1, Fixture.Answers(("wording", "ignored")))) };
        var evaluation = Fixture.Evaluate(both, Fixture.Wording());
        evaluation.Asked.Where(a => a.LineId is not null).Select(a => a.Slot.ToString()).ShouldBe(["line/l1/wording"]);
        evaluation.Freeze(1, "en").Answers.ShouldNotContain(a => a.Text == "ignored");
    }

    [Fact]
    public void The_shops_own_questions_are_asked_by_step()
    {
        var evaluation = Fixture.Evaluate(Fixture.Cart(null) with { Answers = Fixture.Answers() });
        evaluation.Asked.Select(a => (a.Field.Field.Key, a.Field.Field.Step)).ShouldBe(
            [("name", "contact"), ("email", "contact"), ("telephone", "contact"), ("delivery_address", "delivery")]);
        evaluation.Problems.Select(p => p.Field).ShouldBe(["name", "email", "delivery_address"]);
    }

    [Fact]
    public void An_empty_cart_and_a_product_no_longer_sold_are_problems()
    {
        Fixture.Evaluate(CartContent.Empty with { Answers = Fixture.Shopper }).Problems.Single().Code.ShouldBe("empty_cart");
        var gone = Fixture.Cart(null) with { Lines = [new CartLine("l1", "GONE", 1, Fixture.Answers())] };
        Fixture.Evaluate(gone).Problems.Single().Code.ShouldBe("not_sold");
    }

    [Fact]
    public void Left_empty_is_frozen_apart_from_not_asked()
    {
        var frozen = Fixture.Evaluate(Fixture.Cart(null), Fixture.Wording(required: false)).Freeze(3, "en");
        frozen.Answers.Single(a => a.Field == "wording").Value.ShouldBeNull();
        Fixture.Evaluate(Fixture.Cart(null)).Freeze(3, "en").Answers.ShouldNotContain(a => a.Field == "wording");
    }

    [Fact]
    public void A_cart_with_problems_cannot_be_frozen() =>
        Should.Throw<InvalidOperationException>(() => Fixture.Evaluate(Fixture.Cart(null), Fixture.Wording()).Freeze(1, "en"));

    [Fact]
    public void Prices_sum_exactly()
    {
        var cart = Fixture.Cart("Zoë", 3) with { };
        cart = cart with { Lines = cart.Lines.Add(new CartLine("l2", "TREE", 2, Fixture.Answers())) };
        var prices = Fixture.Evaluate(cart, Fixture.Wording()).Prices;
        prices.Rows.Select(r => r.SumMinor).ShouldBe([5100L, 17900L]);
        prices.TotalMinor.ShouldBe(23000);
    }

    [Fact]
    public void Evaluating_twice_gives_the_same_and_unasked_answers_change_nothing() =>
        Gen.Select(Gen.String, Gen.String, Gen.Int[1, 999]).Sample((wording, other, quantity) =>
        {
            var cart = Fixture.Cart(wording, quantity);
            var more = cart with
            {
                Lines = [cart.Lines[0] with { Answers = cart.Lines[0].Answers.SetItem("unasked", AnswerValue.Of(other)) }],
                Answers = cart.Answers.SetItem("unasked_too", AnswerValue.Of(other)),
            };
            var plan = Fixture.Plan(Fixture.Wording(5));
            var (once, twice, with) = (Said(cart), Said(cart), Said(more));
            twice.ShouldBe(once);
            with.ShouldBe(once);

            string Said(CartContent c)
            {
                var e = Evaluator.Evaluate(plan, Fixture.Products, c);
                return string.Join('|', e.Asked.Select(a => a.Slot + "=" + a.Text).Concat(e.Problems.Select(p => p.ToString()!)).Append(e.Prices.TotalMinor.ToString(System.Globalization.CultureInfo.InvariantCulture)));
            }
        });

    [Fact]
    public void Every_problem_names_a_field_and_a_step_that_exist() =>
        Gen.String.Sample(wording =>
        {
            var register = Fixture.Register(Fixture.Wording(5));
            foreach (var problem in Fixture.Evaluate(Fixture.Cart(wording), Fixture.Wording(5)).Problems)
            {
                register.Find(problem.Field!).ShouldNotBeNull();
                Step.OrdinalOf(problem.Step).ShouldBeGreaterThanOrEqualTo(0);
                problem.Sentence.ShouldNotContain("{");
            }
        });
}
