using System.Collections.Immutable;
using Sexton.Core.Cart;
using Sexton.Core.Values;

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
        var cart = Fixture.Cart("Zoë", 2).Add(Fixture.Line(product, 3, ("wording", wording)), Same);
        cart.Lines.Length.ShouldBe(lines);
        cart.Lines.Sum(l => l.Quantity).ShouldBe(5);
    }

    [Fact]
    public void A_dormant_answer_another_variant_or_units_keep_lines_apart()
    {
        Fixture.Cart("Zoë").Add(Fixture.Line("LABEL", 1, ("wording", "Zoë"), ("dormant", "x")), Same).Lines.Length.ShouldBe(2);
        Fixture.Of(Fixture.Line("POT/POT-S")).Add(Fixture.Line("POT/POT-L"), Same).Lines.Length.ShouldBe(2);
        Fixture.Of(Fixture.Line("WALK").WithUnits()).Add(Fixture.Line("WALK").WithUnits(), Same).Lines.Length.ShouldBe(2);
    }

    [Theory]
    [InlineData(0)]
    [InlineData(-1)]
    [InlineData(1000)]
    public void A_quantity_out_of_range_is_refused(int quantity) =>
        Should.Throw<CartException>(() => CartContent.Empty.Add(Fixture.Line("LABEL", quantity), Same));

    [Fact]
    public void Fewer_can_be_bought_where_each_one_is_asked()
    {
        CartContent
            .Empty.Add(Fixture.Line("WALK", CartContent.MostUnits).WithUnits(), Same)
            .Lines[0]
            .Units.Length.ShouldBe(CartContent.MostUnits);
        Should.Throw<CartException>(() => CartContent.Empty.Add(Fixture.Line("WALK", CartContent.MostUnits + 1).WithUnits(), Same));
    }

    [Fact]
    public void Merging_over_the_cap_is_refused_and_changes_nothing()
    {
        var cart = Fixture.Cart("Zoë", 999);
        Should.Throw<CartException>(() => cart.Add(Fixture.Line("LABEL", 1, ("wording", "Zoë")), Same));
        cart.Lines.Single().Quantity.ShouldBe(999);
    }

    [Fact]
    public void A_line_is_changed_and_taken_out()
    {
        var line = Fixture.Cart("Zoë").Lines[0];
        var cart = Fixture.Cart("Zoë").Change(line with { Quantity = 4, Answers = Fixture.Answers(("wording", "Odile")) });
        (cart.Lines[0].Quantity, cart.Lines[0].Answers.Find("wording")!.Text).ShouldBe((4, "Odile"));
        cart.TakeOut(line.Id).Lines.ShouldBeEmpty();
        cart.TakeOut(line.Id).TakeOut(line.Id).Lines.ShouldBeEmpty("taken out twice, it is out");
        cart.TakeOut("no").Lines.ShouldBe(cart.Lines);
        Should.Throw<CartException>(() => cart.Change(line with { Quantity = 0 }));
        Should.Throw<CartException>(() => cart.Change(line with { Id = "no" }));
        Should.Throw<CartException>(() => cart.Change(line with { Quantity = 1000 }));
    }

    [Theory]
    // who is there, how many then, who goes, who is answered, who is there then: "!" with that answer ("" for refused)
    [InlineData("u1 u2 u3", 3, "", "u2", "u1 u2! u3")]
    [InlineData("u1 u2 u3", 2, "u2", "u3", "u1 u3!")]
    [InlineData("u1 u2 u3", 2, "u2", "u2", "u1 u3")]
    // The later one first, and one whose number another window gave out and took back.
    [InlineData("u1 u2", 4, "", "u4", "u1 u2 u3 u4!")]
    [InlineData("u1 u2", 3, "", "u9", "u1 u2 u9!")]
    [InlineData("u1 u2", 3, "", "u9 u8", "u1 u2 u9!")]
    // One that another window took out does not come back in the place of another.
    [InlineData("u1 u3", 2, "", "u2", "u1 u3")]
    [InlineData("u1 u3", 3, "", "u2", "u1 u2! u3")]
    [InlineData("u1 u3", 1, "u2 u3", "", "u1")]
    // Another window has added two.
    [InlineData("u1 u2 u3 u4", 1, "u2", "", "")]
    [InlineData("u1 u2", 2, "u7", "", "u1 u2")]
    [InlineData("u1 u2", 4, "", "u1", "u1! u2 u3 u4")]
    [InlineData("u1 u2", 3, "", "x", "")]
    public void A_form_that_is_older_than_the_line_replaces_only_what_was_typed_there(
        string before,
        int quantity,
        string gone,
        string answered,
        string after
    )
    {
        static string[] Ids(string all) => all.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        var line = Fixture.Line("WALK", 1) with { Units = [.. Ids(before).Select(id => new CartUnit(id, Fixture.Answers(("badge", id))))] };
        var given = new LineAnswers(
            line.Id,
            AnswerSet.Empty,
            [.. Ids(answered).Select(static id => new CartUnit(id, Fixture.Answers(("badge", id + "!"))))]
        );
        CartLine Changed() => line.Resize(quantity, Ids(gone), given).WithUnits().Answer(given, static _ => false);
        if (after.Length == 0)
        {
            Should.Throw<CartException>(Changed);
            return;
        }

        var changed = Changed();
        changed.Quantity.ShouldBe(quantity);
        string.Join(' ', changed.Units.Select(u => u.Answers.Find("badge")?.Text ?? u.Id)).ShouldBe(after);
    }

    [Fact]
    public void Answers_that_are_none_are_refused_wherever_they_are_given()
    {
        var line = Fixture.Line("WALK", 1).WithUnits();
        foreach (var units in new ImmutableArray<CartUnit>[] { default, [null!], [new CartUnit("u1", null!)] })
        {
            var given = new LineAnswers(line.Id, AnswerSet.Empty, units);
            Should.Throw<CartException>(() => line.Resize(1, [], given));
            Should.Throw<CartException>(() => line.Answer(given, static _ => false));
        }

        Should.Throw<CartException>(() => line.Answer(new(line.Id, null!, []), static _ => false));
    }

    [Theory]
    // ids before, quantity, ids after ("" for refused)
    [InlineData("", 3, "u1 u2 u3")]
    [InlineData("u1 u3", 3, "u1 u2 u3")]
    [InlineData("u3", 3, "u1 u2 u3")]
    [InlineData("u2", 2, "u1 u2")]
    [InlineData("u3 u1", 2, "u1 u3")]
    [InlineData("u7 u9", 3, "u1 u7 u9")]
    [InlineData("u1 u2 u3", 2, "")]
    [InlineData("u1 u1", 2, "")]
    [InlineData("a b", 2, "")]
    [InlineData("u0", 1, "")]
    [InlineData("u01", 1, "")]
    [InlineData("u123456", 1, "")]
    [InlineData("U1", 1, "")]
    public void Units_follow_the_quantity_and_never_fall_by_themselves(string before, int quantity, string after)
    {
        var line = Fixture.Line("WALK", quantity) with
        {
            Units =
            [
                .. before.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(id => new CartUnit(id, Fixture.Answers(("badge", id)))),
            ],
        };
        if (after.Length == 0)
        {
            Should.Throw<CartException>(() => line.WithUnits());
            return;
        }

        var units = line.WithUnits().Units;
        string.Join(' ', units.Select(u => u.Id)).ShouldBe(after);
        units.Where(u => u.Answers.Count > 0).ShouldAllBe(u => u.Answers.Find("badge")!.Text == u.Id);
    }

    [Fact]
    public void A_further_unit_gets_a_place_that_none_ever_had()
    {
        var three = Fixture.Line("WALK", 3).WithUnits();
        var two = (three with { Quantity = 2, Units = [three.Units[0], three.Units[2]] }).WithUnits();
        string.Join(' ', (two with { Quantity = 4 }).WithUnits().Units.Select(u => u.Id)).ShouldBe("u1 u3 u4 u5");
    }

    [Theory]
    // the answers of one line and of another, how many lines they make; the length is 1.5 where none is given
    [InlineData("wording", "Zoe\u0308", "Zo\u00eb", 1)] // NFC
    [InlineData("wording", " Zoë ", "Zoë", 1)]
    [InlineData("length", "1,5", "1.5", 1)]
    [InlineData("length", 2, "2.0", 1)]
    [InlineData("length", 2, "1.5", 2)]
    [InlineData("length", null, "1.5", 1)] // left as proposed
    [InlineData("length", "", "1.5", 2)] // emptied
    [InlineData("wording", null, "", 1)]
    [InlineData("wording", null, " \u200b", 1)]
    [InlineData("picks", "b a", "a b", 1)]
    [InlineData("picks", "b", "a b", 2)]
    [InlineData("dormant", "x", null, 2)]
    public void Lines_are_compared_by_what_their_answers_say(string field, object? one, object? other, int lines)
    {
        var plan = Fixture.Plan(
            Fixture.Ask("wording", "line_text"),
            Fixture.Ask("length", "number", ("decimals", 1)) with
            {
                Default = AnswerValue.Of(1.5m),
            },
            Fixture.Ask("picks", "several_of", ("choices", Fixture.Choices("a", "b")))
        );
        CartLine Line(object? answer) =>
            Fixture.Line("LABEL", 1, answer is null ? [] : [(field, field == "picks" ? ((string)answer).Split(' ') : answer)]);
        CartContent.Empty.Add(Line(one), Canonical).Add(Line(other), Canonical).Lines.Length.ShouldBe(lines);
        CartContent.Empty.Add(Line(other), Canonical).Add(Line(one), Canonical).Lines.Length.ShouldBe(lines);
        AnswerSet Canonical(CartLine line) => plan.CanonicalOf(line, Fixture.Today);
    }

    [Fact]
    public void A_step_changes_the_answers_that_it_gives_and_no_others()
    {
        var cart = Fixture.Of((Fixture.Line("WALK", 2, ("pace", "slow")) with { Quantity = 2 }).WithUnits());
        cart = cart.Answer(
            [
                new LineAnswers(
                    "l1",
                    Fixture.Answers(("meeting", "gate")),
                    [new CartUnit("u2", Fixture.Answers(("badge", "Zoë"))), new CartUnit("u9", Fixture.Answers(("badge", "gone")))]
                ),
            ],
            _ => false
        );
        cart = cart.Answer([new LineAnswers("gone", Fixture.Answers(("meeting", "nowhere")), [])], _ => false);
        (cart.Lines[0].Answers.Find("pace")!.Text, cart.Lines[0].Answers.Find("meeting")!.Text).ShouldBe(("slow", "gate"));
        cart.Lines[0].Units.Select(u => u.Answers.Find("badge")?.Text).ShouldBe([null, "Zoë"]);
    }

    [Theory]
    [InlineData("""{"lines":[null]}""")]
    [InlineData("""{"lines":[{"id":"a","product_code":"WALK","quantity":2,"answers":{},"units":[null]}]}""")]
    [InlineData("""{"lines":[{"id":"a","product_code":"WALK","quantity":2,"answers":{},"units":[{"id":"x","answers":{}}]}]}""")]
    [InlineData("""{"lines":[{"id":"a","product_code":"WALK","quantity":2000,"answers":{}}]}""")]
    [InlineData(
        """{"lines":[{"id":"a","product_code":"WALK","quantity":1,"answers":{}},{"id":"a","product_code":"WALK","quantity":1,"answers":{}}]}"""
    )]
    [InlineData(
        """{"lines":[{"id":"aaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaaa","product_code":"WALK","quantity":1,"answers":{}}]}"""
    )]
    [InlineData("""{"language":"!!"}""")]
    [InlineData("""{"language":""}""")]
    [InlineData("""{"answers":{"wording":"a\u0000b"}}""")]
    [InlineData("""{"answers":{"wording":"a\ud800b"}}""")]
    [InlineData("""{"answers":{"wording":["\udc00"]}}""")]
    [InlineData("""{"answers":{"wording":{"town":"a\ud800"}}}""")]
    public void What_no_form_sends_is_refused_in_a_sentence(string json)
    {
        var cart = System.Text.Json.JsonSerializer.Deserialize<CartContent>(json, DocumentJson.Options)!;
        Should.Throw<CartException>(cart.CheckShape).Message.ShouldEndWith(".");
    }

    [Fact]
    public void More_lines_or_answers_than_a_cart_holds_are_refused()
    {
        Should.Throw<CartException>(() =>
            (
                CartContent.Empty with
                {
                    Lines = [.. Enumerable.Range(0, 101).Select(i => Fixture.Line("LABEL") with { Id = "l" + i })],
                }
            ).CheckShape()
        );
        Should.Throw<CartException>(() =>
            (
                CartContent.Empty with
                {
                    Answers = AnswerSet.Of(Enumerable.Range(0, 501).Select(i => KeyValuePair.Create("k" + i, AnswerValue.Yes))),
                }
            ).CheckShape()
        );
        Fixture.Of(Fixture.Line("WALK", 3).WithUnits()).CheckShape();
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
        var full = Enumerable
            .Range(0, CartContent.MostLines)
            .Aggregate(CartContent.Empty, (cart, i) => cart.Add(Fixture.Line("LABEL", 1, ("wording", "w" + i)), Same));
        Should.Throw<CartException>(() => full.Add(Fixture.Line("TREE"), Same));
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

    private static AnswerSet Same(CartLine line) => line.Answers;
}
