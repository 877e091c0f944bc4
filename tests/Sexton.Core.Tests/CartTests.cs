using Sexton.Core.Cart;

namespace Sexton.Core.Tests;

/// <summary>Lines merge only when all is equal; quantities are capped.</summary>
public sealed class CartTests
{
    [Theory]
    // product, answer of the line added; the cart has LABEL with "Zoë"
    [InlineData("LABEL", "Zoë", 1)]
    [InlineData("LABEL", "Zoe", 2)]
    [InlineData("TREE", "Zoë", 2)]
    public void Lines_merge_only_when_all_is_equal(string product, string wording, int lines)
    {
        var cart = Fixture.Cart("Zoë", 2).Add(new CartLine("l2", product, 3, Fixture.Answers(("wording", wording))));
        cart.Lines.Length.ShouldBe(lines);
        cart.Lines.Sum(l => l.Quantity).ShouldBe(5);
    }

    [Fact]
    public void A_dormant_answer_keeps_lines_apart() =>
        Fixture.Cart("Zoë").Add(new CartLine("l2", "LABEL", 1, Fixture.Answers(("wording", "Zoë"), ("dormant", "x")))).Lines.Length.ShouldBe(2);

    [Theory]
    [InlineData(0)]
    [InlineData(-1)]
    [InlineData(1000)]
    public void A_quantity_out_of_range_is_refused(int quantity) =>
        Should.Throw<CartException>(() => CartContent.Empty.Add(new CartLine("l1", "LABEL", quantity, Fixture.Answers())));

    [Fact]
    public void Merging_over_the_cap_is_refused_and_changes_nothing()
    {
        var cart = Fixture.Cart("Zoë", 999);
        Should.Throw<CartException>(() => cart.Add(new CartLine("l2", "LABEL", 1, Fixture.Answers(("wording", "Zoë")))));
        cart.Lines.Single().Quantity.ShouldBe(999);
    }

    [Fact]
    public void A_line_is_changed_and_taken_out()
    {
        var cart = Fixture.Cart("Zoë").Change("l1", 4, Fixture.Answers(("wording", "Odile")));
        (cart.Lines[0].Quantity, cart.Lines[0].Answers["wording"].Text).ShouldBe((4, "Odile"));
        cart.Change("l1", 0, Fixture.Answers()).Lines.ShouldBeEmpty();
        Should.Throw<CartException>(() => cart.Change("no", 1, Fixture.Answers()));
    }

    [Fact]
    public void A_full_cart_takes_no_further_line()
    {
        var full = Enumerable.Range(0, CartContent.MostLines)
            .Aggregate(CartContent.Empty, (cart, i) => cart.Add(new CartLine("l" + i, "LABEL", 1, Fixture.Answers(("wording", "w" + i)))));
        Should.Throw<CartException>(() => full.Add(new CartLine("one more", "TREE", 1, Fixture.Answers())));
    }
}
