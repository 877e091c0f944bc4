using Sexton.Core.Cart;
using Sexton.Core.Register;

namespace Sexton.Core.Tests;

/// <summary>Lines merge only when all is equal; quantities are capped; units keep their ids.</summary>
public sealed class CartTests
{
    [Theory]
    // product, answer of the line added; the cart has LABEL with "Zoë"
    [InlineData("LABEL", "Zoë", 1)]
    [InlineData("LABEL", "Zoe", 2)]
    [InlineData("TREE", "Zoë", 2)]
    public void Lines_merge_only_when_all_is_equal(string product, string wording, int lines)
    {
        var cart = Fixture.Cart("Zoë", 2).Add(Fixture.Line(product, 3, ("wording", wording)));
        cart.Lines.Length.ShouldBe(lines);
        cart.Lines.Sum(l => l.Quantity).ShouldBe(5);
    }

    [Fact]
    public void A_dormant_answer_another_variant_or_units_keep_lines_apart()
    {
        Fixture.Cart("Zoë").Add(Fixture.Line("LABEL", 1, ("wording", "Zoë"), ("dormant", "x"))).Lines.Length.ShouldBe(2);
        Fixture.Of(Fixture.Line("POT/POT-S")).Add(Fixture.Line("POT/POT-L")).Lines.Length.ShouldBe(2);
        Fixture.Of(Fixture.Line("WALK").WithUnits()).Add(Fixture.Line("WALK").WithUnits()).Lines.Length.ShouldBe(2);
    }

    [Theory]
    [InlineData(0)]
    [InlineData(-1)]
    [InlineData(1000)]
    public void A_quantity_out_of_range_is_refused(int quantity) =>
        Should.Throw<CartException>(() => CartContent.Empty.Add(Fixture.Line("LABEL", quantity)));

    [Fact]
    public void Fewer_can_be_bought_where_each_one_is_asked()
    {
        CartContent.Empty.Add(Fixture.Line("WALK", CartContent.MostUnits).WithUnits()).Lines[0].Units.Length.ShouldBe(CartContent.MostUnits);
        Should.Throw<CartException>(() => CartContent.Empty.Add(Fixture.Line("WALK", CartContent.MostUnits + 1).WithUnits()));
    }

    [Fact]
    public void Merging_over_the_cap_is_refused_and_changes_nothing()
    {
        var cart = Fixture.Cart("Zoë", 999);
        Should.Throw<CartException>(() => cart.Add(Fixture.Line("LABEL", 1, ("wording", "Zoë"))));
        cart.Lines.Single().Quantity.ShouldBe(999);
    }

    [Fact]
    public void A_line_is_changed_and_taken_out()
    {
        var line = Fixture.Cart("Zoë").Lines[0];
        var cart = Fixture.Cart("Zoë").Change(line with { Quantity = 4, Answers = Fixture.Answers(("wording", "Odile")) });
        (cart.Lines[0].Quantity, cart.Lines[0].Answers.Find("wording")!.Text).ShouldBe((4, "Odile"));
        cart.Change(line with { Quantity = 0 }).Lines.ShouldBeEmpty();
        Should.Throw<CartException>(() => cart.Change(line with { Id = "no" }));
    }

    [Theory]
    // ids before, quantity, ids after ("" for refused)
    [InlineData("", 3, "u1 u2 u3")]
    [InlineData("u1 u3", 3, "u1 u3 u2")]
    [InlineData("u2", 2, "u2 u1")]
    [InlineData("a b", 2, "a b")]
    [InlineData("a b c", 2, "")]
    [InlineData("a a", 2, "")]
    public void Units_follow_the_quantity_and_never_fall_by_themselves(string before, int quantity, string after)
    {
        var line = Fixture.Line("WALK", quantity) with { Units = [.. before.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(id => new CartUnit(id, Fixture.Answers(("badge", id))))] };
        if (after.Length == 0)
        {
            Should.Throw<CartException>(() => line.WithUnits());
            return;
        }

        var units = line.WithUnits().Units;
        string.Join(' ', units.Select(u => u.Id)).ShouldBe(after);
        units.Where(u => u.Answers.Count > 0).ShouldAllBe(u => u.Answers.Find("badge")!.Text == u.Id);
    }

    [Theory]
    // what is sent, whether the field has a default, what the cart has then
    [InlineData("Zoë", false, "Zoë")]
    [InlineData("", false, null)]
    [InlineData("  ", false, null)]
    [InlineData("", true, "")] // gone would bring the default back
    public void An_answer_of_the_order_that_is_emptied_is_gone(string sent, bool hasDefault, string? kept)
    {
        var cart = CartContent.Empty.Answer(Fixture.Answers(("message", "before")), _ => false);
        cart.Answer(Fixture.Answers(("message", sent)), _ => hasDefault).Answers.Find("message")?.Text.ShouldBe(kept);
    }

    [Fact]
    public void A_key_is_remembered_for_some_time()
    {
        var cart = Enumerable.Range(0, 25).Aggregate(CartContent.Empty, (c, i) => c.Remember("k" + i)).Remember(null);
        cart.Added.ShouldContain("k24");
        cart.Added.Length.ShouldBe(20);
    }

    [Fact]
    public void A_full_cart_takes_no_further_line()
    {
        var full = Enumerable.Range(0, CartContent.MostLines).Aggregate(CartContent.Empty, (cart, i) => cart.Add(Fixture.Line("LABEL", 1, ("wording", "w" + i))));
        Should.Throw<CartException>(() => full.Add(Fixture.Line("TREE")));
    }

    [Fact]
    public void Answers_are_found_and_replaced_by_their_key()
    {
        var answers = Fixture.Answers(("b", 2), ("a", 1), ("c", 3));
        answers.Select(a => a.Key).ShouldBe(["a", "b", "c"]);
        answers.Find("b").ShouldBe(AnswerValue.Of(2m));
        answers.Find("bb").ShouldBeNull();
        answers.With("b", null).ShouldBe(Fixture.Answers(("a", 1), ("c", 3)));
        answers.With("bb", AnswerValue.Yes).Count.ShouldBe(4);
    }
}
