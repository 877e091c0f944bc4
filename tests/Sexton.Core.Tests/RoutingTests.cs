using System.Collections.Immutable;
using Sexton.Core.Asking;
using Sexton.Core.Checks;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Files;
using Sexton.Core.Orders;
using Sexton.Core.Plan;
using Sexton.Core.Projections;
using Sexton.Core.Register;
using Sexton.Core.Register.Settings;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>What each destination gets, and the checks over the draft.</summary>
public sealed class RoutingTests
{
    [Theory]
    // destination, the slots it gets
    [InlineData("cart_line", "line/l1/wording")]
    [InlineData(
        "confirmation",
        "line/l1/wording order/name order/email order/delivery_method order/delivery_address order/invoice_to order/payment_method"
    )]
    [InlineData(
        "back_office",
        "line/l1/wording order/name order/email order/delivery_method order/delivery_address order/invoice_to order/payment_method"
    )]
    public void A_destination_gets_what_was_given_and_goes_there(string destination, string slots)
    {
        var order = Fixture.Order(Fixture.Evaluate(Fixture.Cart("Zoë"), Fixture.Wording()));
        Slots(Projector.Project(order, Fixture.Plan(Fixture.Wording()), Fixture.Plan(Fixture.Wording()), destination)).ShouldBe(slots);
    }

    [Fact]
    public void Units_follow_their_line()
    {
        var register = Fixture.Register(Fixture.AskUnit("badge", "line_text"), Fixture.Ask("guide", "line_text"));
        var walk = Fixture.Line("WALK", 2, ("guide", "Imke")) with
        {
            Units = [new("a", Fixture.Answers(("badge", "Zoë"))), new("b", Fixture.Answers(("badge", "Odile")))],
        };
        var order = Fixture.Order(Fixture.Evaluate(Fixture.Plan(register), Fixture.Of(walk, Fixture.Line("TREE", 1, ("guide", "none")))));
        Slots(Projector.Project(order, Fixture.Plan(register), Fixture.Plan(register), "order_page"))
            .ShouldStartWith("line/l1/guide unit/l1/a/badge unit/l1/b/badge line/l2/guide");
        order.Lines[0].NameOf("b", "en").ShouldBe("Seat 2 of 2");
    }

    [Fact]
    public void Routes_follow_the_current_register_and_texts_the_order()
    {
        var order = Fixture.Order(Fixture.Evaluate(Fixture.Cart("Zoë"), Fixture.Wording()));
        var now = Fixture.Plan(Fixture.Wording() with { Label = LanguageMap.Of("Another label"), GoesTo = ["confirmation"] });
        Projector.Project(order, now, now, "shopper_email").Entries.ShouldNotContain(e => e.Field == "wording");
        Projector.Project(order, now, now, "confirmation").Entries[0].Name.ShouldBe("Words on the label");
    }

    [Theory]
    // the condition of the route, whether the answer goes there
    [InlineData("{'of': 'group', 'is': 'household'}", true)]
    [InlineData("{'of': 'group', 'is': 'trade'}", false)]
    [InlineData("{'of': 'product', 'is': 'LABEL'}", true)]
    [InlineData("{'of': 'answer.wording', 'has_in_it': 'o'}", true)]
    [InlineData("{'of': 'answer.delivery_method', 'is': 'fetched'}", false)]
    [InlineData("{'of': 'date', 'is': '2026-11-25'}", true)] // the day of the order, whenever it is sent
    public void A_route_has_a_condition_over_the_order_as_it_was(string condition, bool goes)
    {
        var order = Fixture.Order(Fixture.Evaluate(Fixture.Cart("Zoë"), Fixture.Wording()));
        var now = Fixture.Wording() with
        {
            GoesToWhen = ImmutableSortedDictionary<string, Condition>.Empty.Add("back_office", Fixture.Condition(condition)),
        };
        Projector.Project(order, Fixture.Plan(now), Fixture.Plan(now), "back_office").Entries.Any(e => e.Field == "wording").ShouldBe(goes);
        var asked = Fixture.Evaluate(Fixture.Plan(now), Fixture.Cart("Zoë"));
        Projector.Project(asked, "back_office").Entries.Any(e => e.Field == "wording").ShouldBe(goes, "the same of a cart");
    }

    [Theory]
    // what the line is of, the condition of the route, whether its answer goes there: an order knows of its goods what the cart knew
    [InlineData("TREE", "{'of': 'tag', 'has_in_it': 'fruit'}", true)]
    [InlineData("TALL", "{'of': 'tag', 'has_in_it': 'fruit'}", false)]
    [InlineData("TREE", "{'of': 'attribute.height', 'over': 2}", true)]
    [InlineData("POT/POT-L", "{'of': 'attribute.height', 'over': 0.5}", true)]
    [InlineData("POT/POT-S", "{'of': 'attribute.height', 'over': 0.5}", false)]
    [InlineData("POT/POT-S", "{'of': 'attribute.height', 'was_given': true}", true)]
    [InlineData("TREE", "{'of': 'category', 'is': 'Trees'}", true)]
    [InlineData("WALK", "{'of': 'ships', 'is': true}", false)]
    [InlineData("TREE", "{'of': 'ships', 'is': true}", true)]
    public void A_route_reads_the_goods_as_they_were(string product, string condition, bool goes)
    {
        var plan = Fixture.Plan(
            Fixture.Ask("note", "line_text") with
            {
                GoesTo = ["back_office"],
                GoesToWhen = ImmutableSortedDictionary<string, Condition>.Empty.Add("back_office", Fixture.Condition(condition)),
            }
        );
        var cart = Fixture.Evaluate(plan, Fixture.Of(Fixture.Line(product, 1, ("note", "Zoë"))));
        Projector.Project(cart, "back_office").Entries.Any(static e => e.Field == "note").ShouldBe(goes, "of the cart");
        Projector
            .Project(Fixture.Order(cart), plan, plan, "back_office")
            .Entries.Any(static e => e.Field == "note")
            .ShouldBe(goes, "of the order");
    }

    [Fact]
    public void The_route_of_each_one_reads_its_own_answers()
    {
        var plan = Fixture.Plan(
            Fixture.AskUnit("badge", "line_text") with
            {
                GoesTo = ["back_office"],
                GoesToWhen = ImmutableSortedDictionary<string, Condition>.Empty.Add(
                    "back_office",
                    Fixture.Condition("{'of': 'answer.badge', 'is': 'Odile'}")
                ),
            }
        );
        var walk = Fixture.Line("WALK", 2) with
        {
            Units = [new("a", Fixture.Answers(("badge", "Zoë"))), new("b", Fixture.Answers(("badge", "Odile")))],
        };
        var cart = Fixture.Evaluate(plan, Fixture.Of(walk));
        Slots(Projector.Project(cart, "back_office")).ShouldStartWith("unit/l1/b/badge order/");
        Slots(Projector.Project(Fixture.Order(cart), plan, plan, "back_office")).ShouldStartWith("unit/l1/b/badge order/");
    }

    [Fact]
    public void Where_an_answer_of_an_order_stands_is_found_or_refused()
    {
        var plan = Fixture.Plan(Fixture.AskUnit("badge", "line_text"), Fixture.Ask("note", "line_text"));
        var walk = Fixture.Line("WALK", 2, ("note", "Zoë")) with
        {
            Id = "l2",
            Units = [new("a", Fixture.Answers(("badge", "Zoë"))), new("b", Fixture.Answers(("badge", "Odile")))],
        };
        var order = Fixture.Order(Fixture.Evaluate(plan, Fixture.Of(Fixture.Line("TREE", 1), walk)));
        var facts = new OrderFacts(order);
        order
            .Answers.Where(static a => a.Field is "badge" or "note" && a.LineId == "l2")
            .Select(facts.PlaceOf)
            .ShouldBe([Place.OfLine(1), new Place(1, 0), new Place(1, 1)], ignoreOrder: true);
        facts.PlaceOf(order.Answers.First(static a => a.LineId is null)).ShouldBe(Place.Order);
        Should.Throw<ArgumentException>(() => facts.PlaceOf(order.Answers[0] with { LineId = "l3" })).ParamName.ShouldBe("lineId");
    }

    [Fact]
    public void Files_go_with_the_answer_of_a_cart_and_of_its_order()
    {
        var plan = Fixture.Plan(Fixture.Ask("plan", "file") with { GoesTo = ["cart_line", "back_office"] });
        var pdf = KeptFiles.SampleId(FileKinds.All.Single(static k => k.Key == "pdf"), 1);
        var cart = new Evaluation();
        cart.Run(
            plan,
            Fixture.Products,
            Fixture.Of(Fixture.Line("TREE", 1, ("plan", (string[])[pdf]))),
            Fixture.Today,
            files: KeptFiles.Samples
        );
        cart.Problems.ShouldBeEmpty();
        Projector.Project(cart, "cart_line").Entries.Single().Files.Select(static f => f.Name).ShouldBe([pdf]);
        Projector.Project(Fixture.Order(cart), plan, plan, "back_office").Entries[0].Files.Select(static f => f.Name).ShouldBe([pdf]);
    }

    [Fact]
    public void What_is_switched_off_later_keeps_its_routes()
    {
        var order = Fixture.Order(Fixture.Evaluate(Fixture.Cart("Zoë"), Fixture.Wording()));
        foreach (var now in new[] { Fixture.Wording() with { SwitchedOff = true }, Fixture.Wording() with { Retired = true } })
        {
            Projector.Project(order, Fixture.Plan(now), Fixture.Plan(now), "back_office").Entries[0].Text.ShouldBe("Zoë");
        }
    }

    [Fact]
    public void A_projection_is_read_line_by_line_and_unit_by_unit()
    {
        Entry Of(string? line, string? unit) => new(line, unit, "wording", "Words", $"{line}{unit}");
        var projection = new Projection([Of("l1", null), Of("l1", "u1"), Of("l1", "u2"), Of("l2", null), Of("l2", "u1"), Of(null, null)]);
        string Texts(IEnumerable<Entry> entries) => string.Join(' ', entries.Select(static e => e.Text));
        Texts(projection.Of("l1")).ShouldBe("l1");
        Texts(projection.Of((string?)null)).ShouldBe("");
        projection.Of((string?)null).Count().ShouldBe(1);
        Texts(projection.Of("l1", "u2")).ShouldBe("l1u2");
        Texts(projection.Of("l2", "u2")).ShouldBe("");
    }

    [Theory]
    [InlineData(60, null)]
    [InlineData(61, "not_taken_there")]
    public void A_destination_that_takes_less_is_a_problem_with_its_remedies(int longest, string? code)
    {
        var problem = Problems(Fixture.Wording(longest)).SingleOrDefault();
        problem?.Code.ShouldBe(code);
        (problem is null).ShouldBe(code is null);
        (problem?.Remedies.Select(static r => r.Label) ?? []).ShouldBe(code is null ? [] : ["Leave off the back office", "Allow 60"]);
        foreach (var remedy in problem?.Remedies ?? [])
        {
            Problems(FieldSettings.Apply(Fixture.Wording(longest), remedy.Setting, remedy.Value, Fixture.Destinations))
                .ShouldBeEmpty(remedy.Label);
        }
    }

    public static TheoryData<ProductScope, string> Scopes() =>
        new()
        {
            { ProductScope.Only(), "asked_of_nothing" },
            { ProductScope.Only("LABEL", "GONE"), "asked_of_unknown" },
            {
                new ProductScope { Categories = ["Trees", "Shrubs"] },
                "asked_of_unknown"
            },
            {
                new ProductScope { Products = ["LABEL"], Tags = ["rare"] },
                "asked_of_unknown"
            },
            { ProductScope.Every with { Groups = ["trade", "friends"] }, "asked_of_unknown" },
        };

    [Theory]
    [MemberData(nameof(Scopes))]
    public void A_field_asked_of_nothing_or_of_what_is_not_there_is_a_problem(ProductScope scope, string code)
    {
        var field = Fixture.Wording() with { AskedOf = scope };
        var problem = Problems(field).Single();
        problem.Code.ShouldBe(code);
        foreach (var remedy in problem.Remedies)
        {
            Problems(FieldSettings.Apply(field, remedy.Setting, remedy.Value, Fixture.Destinations)).ShouldBeEmpty();
        }
    }

    [Theory]
    [InlineData("{'of': 'attribute.weight', 'over': 3}", "weight")]
    [InlineData("{'of': 'group', 'is': 'friends'}", "friends")]
    [InlineData("{'either': [{'of': 'product', 'is_among': ['LABEL', 'GONE']}]}", "GONE")]
    [InlineData("{'of': 'answer.colour', 'is': 'green'}", "green")]
    [InlineData("{'of': 'answer.colour', 'is': 'red'}", null)]
    public void A_condition_over_what_is_not_there_is_a_problem(string condition, string? named)
    {
        var colour = Fixture.Ask("colour", "one_of", ("choices", Fixture.Choices("red", "blue")));
        var problems = Problems(Fixture.Wording() with { When = Fixture.Condition(condition) }, colour).ToList();
        problems.Select(p => (p.Code, p.Setting)).ShouldBe(named is null ? [] : [("condition_names_unknown", "when")]);
        problems.ShouldAllBe(p => p.Sentence.Contains(named!, StringComparison.Ordinal));
    }

    [Fact]
    public void A_field_that_goes_nowhere_is_a_problem() =>
        Problems(Fixture.Wording() with { GoesTo = [] }).Single().Code.ShouldBe("goes_nowhere");

    [Theory]
    [InlineData("one_of", "settings.choices")]
    [InlineData("several_of", "settings.choices")]
    [InlineData("how_many_of_each", "settings.choices")]
    [InlineData("time_slot", "settings.choices")]
    [InlineData("agreed_to", "settings.terms")]
    [InlineData("words_only", "settings.words")]
    public void A_field_that_nobody_can_answer_is_a_problem(string type, string setting) =>
        Problems(Fixture.Ask("question", type)).Select(static p => (p.Code, p.Setting)).ShouldBe([("cannot_be_compiled", setting)]);

    [Fact]
    public void The_built_in_fields_have_no_problem() => Problems().ShouldBeEmpty();

    private static string Slots(Projection projection) => string.Join(' ', projection.Entries.Select(e => e.Slot));

    private static IEnumerable<Problem> Problems(params Field[] fields) =>
        DraftChecks.Run(RegisterPlan.Compile(Fixture.Register(fields), FieldTypes.Standard, TestKind.All), Fixture.Products);
}
