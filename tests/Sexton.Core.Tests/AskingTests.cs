using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Plan;
using Sexton.Core.Register;
using Sexton.Core.Register.Settings;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>What is asked of a cart, in which order, and what keeps it from becoming an order.</summary>
public sealed class AskingTests
{
    [Theory]
    // entered (null: no answer), required, problem, sentence
    [InlineData(null, true, "required", "Please fill in “Words on the label”.")]
    [InlineData("  ", true, "required", "Please fill in “Words on the label”.")]
    [InlineData(null, false, null, null)]
    [InlineData("", false, null, null)]
    [InlineData("Zoë", true, null, null)]
    [InlineData("123456", true, "too_long", "“Words on the label” has room for 5 characters, and this has 6.")]
    [InlineData("a\tb", true, null, null)]
    [InlineData("a\nb", true, "line_break", "“Words on the label” goes on one line. Take the line break out.")]
    public void A_wording_is_checked(string? entered, bool required, string? code, string? sentence)
    {
        var problems = Fixture.Evaluate(Fixture.Cart(entered), Fixture.Wording(5, required)).Problems;
        problems.Select(p => p.Refusal.Key).ShouldBe(code is null ? [] : [code]);
        problems.Select(p => p.SentenceIn(Wording.Usual, "en")).ShouldBe(sentence is null ? [] : [sentence]);
        problems.ShouldAllBe(p => p.Field!.Key == "wording" && p.LineId == "l1" && p.UnitId == null && p.Step == "product_page");
    }

    /// <summary>Site details are asked of a line whose tree is over 3 m, unless the shopper is trade.</summary>
    [Theory]
    // cart, group, answer, what the shopper reads ("" for nothing), why it is not asked ("" where it is)
    [InlineData("TALL", "", null, "Please fill in “The access”.", "")]
    [InlineData("TALL", "", 90, "“The access” is at least 100 cm.", "")]
    [InlineData("TALL", "", 120, "", "")]
    [InlineData("TALL", "member", null, "Please fill in “The access”.", "")]
    [InlineData("TALL", "trade", null, "", "the shopper group is trade")]
    [InlineData("TALL", "trade", 90, "", "the shopper group is trade")]
    [InlineData("TREE", "", null, "", "the height is 2.5 m")]
    [InlineData("TREE", "trade", null, "", "the height is 2.5 m, and the shopper group is trade")]
    [InlineData("LABEL", "", null, "", "this product does not ask it")]
    public void A_condition_decides_what_the_shopper_reads(string product, string group, int? answer, string sentence, string why)
    {
        var access = Fixture.Ask("access", "number", ("unit", "cm"), ("least", 100)) with
        {
            Required = true,
            AskedOf = new ProductScope { Categories = ["Trees"] },
            When = Fixture.Condition("{'together': [{'of': 'attribute.height', 'over': 3}, {'of': 'group', 'is_not': 'trade'}]}"),
        };
        var cart = Fixture.Of(answer is { } given ? Fixture.Line(product, 1, ("access", given)) : Fixture.Line(product)) with
        {
            Group = group,
        };
        var evaluation = Fixture.Evaluate(cart, access);
        string.Join(' ', Fixture.Sentences(evaluation)).ShouldBe(sentence);
        var not = new NotAskedReasons(evaluation.Facts, Fixture.Words(evaluation.Plan.Content))
            .All()
            .SingleOrDefault(n => n.Field.Key == "access");
        (not?.Why ?? "").ShouldBe(why);
        evaluation.Asked.Any(a => a.Field.Key == "access").ShouldBe(not is null);
        if (sentence.Length == 0)
        {
            Fixture
                .Order(evaluation)
                .Answers.Any(a => a.Field == "access")
                .ShouldBe(not is null, "what is not asked is not stored, whatever was entered");
        }
    }

    [Theory]
    // products, tags or groups listed; the cart's product and group; whether it is asked
    [InlineData("products:TREE", "TREE", "", true)]
    [InlineData("products:TREE", "TALL", "", false)]
    [InlineData("categories:Trees", "TALL", "", true)]
    [InlineData("tags:fruit", "TREE", "", true)]
    [InlineData("tags:fruit", "TALL", "", false)]
    [InlineData("groups:trade", "TREE", "trade", true)]
    [InlineData("groups:trade", "TREE", "", false)]
    public void The_quick_ways_decide_as_well(string scope, string product, string group, bool asked)
    {
        var (kind, value) = (scope.Split(':')[0], scope.Split(':')[1]);
        var of = kind switch
        {
            "products" => ProductScope.Only(value),
            "categories" => new ProductScope { Categories = [value] },
            "tags" => new ProductScope { Tags = [value] },
            _ => ProductScope.Every with { Groups = [value] },
        };
        foreach (var field in new[] { Fixture.Ask("it", "line_text"), Fixture.AskOrder("it", "line_text") })
        {
            var evaluation = Fixture.Evaluate(Fixture.Of(Fixture.Line(product)) with { Group = group }, field with { AskedOf = of });
            evaluation.Asked.Any(a => a.Field.Key == "it").ShouldBe(asked, field.Level.ToString());
        }
    }

    [Fact]
    public void Each_unit_is_asked_for_itself_and_named_in_its_problems()
    {
        var badge = Fixture.AskUnit("badge", "line_text") with { Required = true };
        var walk = Fixture.Line("WALK", 2) with { Units = [new("a", Fixture.Answers(("badge", "Zoë"))), new("b", AnswerSet.Empty)] };
        var evaluation = Fixture.Evaluate(Fixture.Of(walk, Fixture.Line("TREE")), badge);
        evaluation
            .Asked.Where(a => a.LineId is not null)
            .Select(a => $"{a.Slot}={a.TextIn("en")}")
            .ShouldBe(["unit/l1/a/badge=Zoë", "unit/l1/b/badge="]);
        evaluation.Problems.Single().ShouldBe(evaluation.Problems.Single() with { LineId = "l1", UnitId = "b" });
        evaluation.Plan.AsksPerUnit(Fixture.Products.Find("WALK")!).ShouldBeTrue();
        evaluation.Plan.AsksPerUnit(Fixture.Products.Find("TREE")!).ShouldBeFalse();
    }

    [Theory]
    // the answer to the opening question, what is asked of the section, why the rest is not
    [InlineData(null, "card", "“A card?” is not answered yet")]
    [InlineData(false, "card", "“A card?” is answered with no")]
    [InlineData(true, "card message from", "")]
    public void An_opening_question_opens_its_section(bool? answer, string asked, string why)
    {
        var register = Fixture.Register(
            Fixture.AskOrder("message", "long_text") with
            {
                Section = "card",
                Required = true,
            },
            Fixture.AskOrder("from", "line_text") with
            {
                Section = "card",
            }
        ) with
        {
            Sections = [Fixture.Section("card") with { Opening = LanguageMap.Of("A card?") }],
        };
        var cart = Fixture.Of(Fixture.Line("TREE"));
        cart = answer is { } given ? cart with { Answers = cart.Answers.With("card", AnswerValue.Of(given)) } : cart;
        var evaluation = Fixture.Evaluate(Fixture.Plan(register), cart);
        string.Join(' ', evaluation.Asked.Select(a => a.Field.Key).Where(k => k is "card" or "message" or "from")).ShouldBe(asked);
        new NotAskedReasons(evaluation.Facts, Fixture.Words(register))
            .All()
            .Where(n => n.Field.Key != "invoice_address")
            .Select(n => n.Why)
            .Distinct(StringComparer.Ordinal)
            .ShouldBe(why.Length == 0 ? [] : [why]);
        evaluation.Problems.Select(p => p.Field!.Key).ShouldBe(answer == true ? ["message"] : []);
    }

    [Fact]
    public void A_section_is_asked_or_not_as_one()
    {
        var register = Fixture.Register(
            Fixture.AskOrder("buyer", "one_of", ("choices", Fixture.Choices("household", "organisation"))),
            Fixture.AskOrder("organisation", "line_text") with
            {
                Section = "of_organisation",
                Required = true,
            },
            Fixture.AskOrder("reference", "line_text") with
            {
                Section = "of_organisation",
            }
        ) with
        {
            Sections =
            [
                Fixture.Section("of_organisation") with
                {
                    When = Fixture.Condition("{'of': 'answer.buyer', 'is': 'organisation'}"),
                },
            ],
        };
        var plan = Fixture.Plan(register);
        string Asked(string buyer) =>
            string.Join(
                ' ',
                Fixture
                    .Evaluate(
                        plan,
                        Fixture.Of(Fixture.Line("TREE")) with
                        {
                            Answers = Fixture.Shopper.With("buyer", AnswerValue.Of(buyer)),
                        }
                    )
                    .Asked.Where(a => a.Field.Field.Step == "cart")
                    .Select(a => a.Field.Key)
            );
        Asked("organisation").ShouldBe("buyer organisation reference");
        Asked("household").ShouldBe("buyer");
    }

    [Fact]
    public void What_waits_for_an_unasked_answer_is_not_asked_either()
    {
        var first = Fixture.Ask("first", "yes_no") with { When = Fixture.Condition("{'of': 'group', 'is': 'trade'}") };
        var second = Fixture.Ask("second", "line_text") with { When = Fixture.Condition("{'of': 'answer.first', 'is': true}") };
        var cart = Fixture.Of(Fixture.Line("TREE", 1, ("first", true)));

        // The register lists them the wrong way round: the order in which they depend on each other counts.
        string Asked(string group) =>
            string.Join(
                ' ',
                Fixture.Evaluate(cart with { Group = group }, second, first).Asked.Where(a => a.LineId is not null).Select(a => a.Field.Key)
            );
        Asked("trade").ShouldBe("second first");
        Asked("").ShouldBe("");
    }

    [Theory]
    // when it must be answered, the quantity, whether leaving it empty is a problem
    [InlineData("never", 1, false)]
    [InlineData("always", 1, true)]
    [InlineData("when", 1, false)]
    [InlineData("when", 2, true)]
    public void An_answer_is_required_always_never_or_under_a_condition(string required, int quantity, bool problem)
    {
        var field = Fixture.Ask("it", "line_text") with
        {
            Required = required == "always",
            RequiredWhen = required == "when" ? Fixture.Condition("{'of': 'quantity', 'over': 1}") : null,
        };
        var evaluation = Fixture.Evaluate(Fixture.Of(Fixture.Line("TREE", quantity)), field);
        evaluation.Problems.Any(p => p.Refusal.Key == RefusalKeys.Required).ShouldBe(problem);
        evaluation.Asked.Single(a => a.LineId is not null).Required.ShouldBe(problem);
    }

    [Theory]
    // default must change, entered (null: never touched), the answer, the problem
    [InlineData(false, null, "Your name", null)]
    [InlineData(false, "", "", null)]
    [InlineData(false, "Zoë", "Zoë", null)]
    [InlineData(true, null, "", "left_as_proposed")]
    [InlineData(true, "Your name", "", "left_as_proposed")]
    [InlineData(true, " Your name ", "", "left_as_proposed")]
    [InlineData(true, "", "", null)]
    [InlineData(true, "Zoë", "Zoë", null)]
    public void A_default_counts_until_another_answer_is_given(bool mustChange, string? entered, string answer, string? code)
    {
        var field = Fixture.Ask("it", "line_text") with { Default = AnswerValue.Of("Your name"), DefaultMustChange = mustChange };
        var evaluation = Fixture.Evaluate(
            Fixture.Of(entered is null ? Fixture.Line("TREE") : Fixture.Line("TREE", 1, ("it", entered))),
            field
        );
        evaluation.Asked.Single(a => a.LineId is not null).TextIn("en").ShouldBe(answer);
        evaluation.Problems.Select(p => p.Refusal.Key).ShouldBe(code is null ? [] : [code]);
    }

    [Fact]
    public void A_choice_has_a_condition_of_its_own()
    {
        var choices = Fixture.Choices("thin", "thick");
        choices[1] = choices[1] with { When = Fixture.Condition("{'of': 'quantity', 'over': 1}") };
        var field = Fixture.Ask("stake", "one_of", ("choices", choices));
        var one = Fixture.Evaluate(Fixture.Of(Fixture.Line("TREE", 1, ("stake", "thick"))), field);
        Fixture.Sentences(one).ShouldBe(["“A thick” is not offered here for “The stake”. Choose again."]);
        one.Offered(one.Asked[0]).Select(c => c.Key).ShouldBe(["thin"]);
        var two = Fixture.Evaluate(Fixture.Of(Fixture.Line("TREE", 2, ("stake", "thick"))), field);
        two.Problems.ShouldBeEmpty();
        two.Offered(two.Asked[0]).Select(c => c.Key).ShouldBe(["thin", "thick"]);
    }

    [Fact]
    public void Fields_stand_by_step_and_place_and_built_in_ones_among_them()
    {
        var register = new RegisterContent([
            Fixture.AskOrder("reference", "line_text") with
            {
                Step = "contact",
            },
            .. Fixture.BuiltIns,
            Fixture.AskOrder("safe_place", "line_text") with
            {
                Step = "delivery",
            },
            Fixture.AskOrder("wish", "line_text") with
            {
                Step = "wishes",
            },
            Fixture.AskOrder("hello", "line_text") with
            {
                Step = "product_page",
            },
        ])
        {
            Steps = [new CustomStep("wishes", LanguageMap.Of("Your wishes"), "cart")],
        };
        var plan = Fixture.Plan(register);
        plan.Steps.Select(s => s.Key).ShouldBe(["product_page", "cart", "wishes", "contact", "delivery", "payment"]);
        Fixture
            .Evaluate(plan, Fixture.Of(Fixture.Line("TREE")))
            .Asked.Select(a => a.Field.Key)
            .ShouldBe([
                "hello",
                "wish",
                "reference",
                "name",
                "email",
                "telephone",
                "delivery_method",
                "delivery_address",
                "safe_place",
                "invoice_to",
                "payment_method",
            ]);
    }

    [Theory]
    // products, how it is delivered, what is asked at delivery
    [InlineData("TREE", null, "delivery_method delivery_address")]
    [InlineData("TREE", "sent", "delivery_method delivery_address")]
    [InlineData("TREE", "fetched", "delivery_method")]
    [InlineData("WALK", null, "")]
    [InlineData("WALK TREE", null, "delivery_method delivery_address")]
    public void An_order_with_nothing_to_ship_asks_for_no_address(string products, string? method, string asked)
    {
        var cart = Fixture.Of([.. products.Split(' ').Select(p => Fixture.Line(p))]);
        cart = method is null ? cart : cart with { Answers = cart.Answers.With("delivery_method", AnswerValue.Of(method)) };
        string.Join(' ', Fixture.Evaluate(cart).Asked.Where(a => a.Field.Field.Step == "delivery").Select(a => a.Field.Key))
            .ShouldBe(asked);
    }

    [Theory]
    [InlineData("trade", null)]
    [InlineData("", "“On account” is not offered here for “How you pay”. Choose again.")]
    public void Paying_on_account_is_for_those_whom_the_shop_knows(string group, string? sentence)
    {
        var cart = Fixture.Of(Fixture.Line("TREE")) with { Group = group };
        cart = cart with { Answers = cart.Answers.With("payment_method", AnswerValue.Of("on_account")) };
        Fixture.Sentences(Fixture.Evaluate(cart)).ShouldBe(sentence is null ? [] : [sentence]);
    }

    [Theory]
    [InlineData("switched_off")]
    [InlineData("retired")]
    public void What_is_switched_off_or_retired_is_not_asked_and_reads_as_empty(string setting)
    {
        var off = FieldSettings.Apply(
            Fixture.Ask("off", "line_text") with
            {
                Required = true,
            },
            setting,
            System.Text.Json.JsonSerializer.SerializeToElement(true),
            Fixture.Destinations
        );
        var waits = Fixture.Ask("waits", "line_text") with { When = Fixture.Condition("{'of': 'answer.off', 'was_not_given': true}") };
        var evaluation = Fixture.Evaluate(Fixture.Of(Fixture.Line("TREE", 1, ("off", "still there"))), off, waits);
        evaluation.Asked.Where(a => a.LineId is not null).Select(a => a.Field.Key).ShouldBe(["waits"]);
        evaluation.Problems.ShouldBeEmpty();
    }

    [Fact]
    public void An_empty_cart_and_what_is_not_sold_are_problems()
    {
        Fixture.Evaluate(CartContent.Empty with { Answers = Fixture.Shopper }).Problems.Select(p => p.Refusal.Key).ShouldBe(["empty_cart"]);
        Fixture.Evaluate(Fixture.Of(Fixture.Line("GONE"))).Problems.Select(p => p.Refusal.Key).ShouldBe(["not_sold"]);
        Fixture
            .Evaluate(Fixture.Of(Fixture.Line("POT")))
            .Problems.Select(p => p.Refusal.Key)
            .ShouldBe(["not_sold"], "a pot has sizes, and none was named");
        Fixture.Evaluate(Fixture.Of(Fixture.Line("POT/POT-XL"))).Problems.Select(p => p.Refusal.Key).ShouldBe(["not_sold"]);
    }

    [Fact]
    public void Prices_sum_exactly_and_a_variant_has_its_own()
    {
        var evaluation = Fixture.Evaluate(Fixture.Of(Fixture.Line("LABEL", 3), Fixture.Line("TREE", 2), Fixture.Line("POT/POT-L", 2)));
        PricingTests.Rows(evaluation).ShouldBe("Zinc label 3×1700=5100|Quince 2×8950=17900|Pot, large 2×2400=4800");
        evaluation.TotalMinor.ShouldBe(27800);
    }

    [Fact]
    public void Left_empty_is_frozen_apart_from_not_asked_and_that_with_its_reason()
    {
        var asked = Fixture.Ask("asked", "line_text");
        var not = Fixture.Ask("not", "line_text") with
        {
            StaffLabel = "The other one",
            When = Fixture.Condition("{'of': 'group', 'is': 'trade'}"),
        };
        var elsewhere = Fixture.Wording();
        var order = Fixture.Order(Fixture.Evaluate(Fixture.Of(Fixture.Line("TREE")), asked, not, elsewhere));
        order.Answers.Single(a => a.Field == "asked").Value.ShouldBeNull();
        order.NotAsked.Single(n => n.LineId == "l1").ShouldBe(new("l1", null, "not", "The other one", "the shopper group is household"));
    }

    [Fact]
    public void Words_only_are_shown_under_their_condition_and_leave_no_answer()
    {
        var words = Fixture.Ask(
            "words",
            "words_only",
            ("words", new Dictionary<string, string>(StringComparer.Ordinal) { ["en"] = "We stamp on Thursdays." })
        ) with
        {
            Required = true,
            GoesTo = [],
            When = Fixture.Condition("{'of': 'quantity', 'over': 1}"),
        };
        var many = Fixture.Evaluate(Fixture.Of(Fixture.Line("TREE", 2)), words);
        many.Asked.Select(static a => (a.Field.Key, a.Required)).ShouldContain(("words", false));
        many.Problems.ShouldBeEmpty();
        Fixture.Order(many).Answers.ShouldNotContain(static a => a.Field == "words");
        Fixture.Order(Fixture.Evaluate(Fixture.Of(Fixture.Line("TREE")), words)).NotAsked.ShouldNotContain(static n => n.LineId == "l1");
    }

    [Fact]
    public void What_is_agreed_to_is_kept_word_for_word_and_asked_again_when_the_text_changed()
    {
        static Field Terms(string text) =>
            Fixture.Ask("terms", "agreed_to", ("terms", new Dictionary<string, string>(StringComparer.Ordinal) { ["en"] = text })) with
            {
                Required = true,
            };
        var cart = Fixture.Of(
            Fixture.Line("TREE", answers: ("terms", new Dictionary<string, string>(StringComparer.Ordinal) { ["text"] = "Wear boots." }))
        );
        var agreed = Fixture.Order(Fixture.Evaluate(cart, Terms("Wear boots."))).Answers.Single(static a => a.Field == "terms");
        (agreed.Text, agreed.Value!.Parts!["text"]).ShouldBe(("Agreed", "Wear boots."));
        Fixture
            .Evaluate(Fixture.Of(Fixture.Line("TREE")), Terms("Wear boots."))
            .Problems.Select(static p => (p.Refusal.Key, p.SentenceIn(Wording.Usual, "en")))
            .ShouldBe([("required", "Please read “The terms” and agree to it.")]);
        Fixture
            .Evaluate(cart, Terms("Wear boots and a hat."))
            .Problems.Select(static p => p.SentenceIn(Wording.Usual, "en"))
            .ShouldBe(["The text of “The terms” has changed. Read it again, then agree."]);
    }

    [Fact]
    public void An_evaluation_that_runs_again_makes_nothing_new()
    {
        var plan = RegisterPlan
            .Compile(
                new RegisterContent([
                    Fixture.Wording(),
                    Fixture.Ask("metres", "number", ("decimals", 1), ("least", 0.5m)) with
                    {
                        When = Fixture.Condition("{'of': 'quantity', 'over': 1}"),
                    },
                    Fixture.Ask("face", "one_of", ("choices", Fixture.Choices("cast", "punched"))) with
                    {
                        RequiredWhen = Fixture.Condition("{'of': 'answer.metres', 'over': 1}"),
                    },
                    Fixture.Ask("extras", "several_of", ("choices", Fixture.Choices("ribbon", "card"))),
                    Fixture.Ask("day", "date"),
                ]),
                FieldTypes.Standard,
                TestKind.All
            )
            .Plan;
        var cart = Fixture.Of([
            .. Enumerable
                .Range(0, 4)
                .Select(static _ =>
                    Fixture.Line(
                        "LABEL",
                        2,
                        ("wording", "Quince, 1987"),
                        ("metres", 2.5m),
                        ("face", "cast"),
                        ("extras", new[] { "ribbon" }),
                        ("day", "2027-01-01")
                    )
                ),
        ]) with
        {
            Answers = AnswerSet.Of([]),
        };
        var evaluation = new Evaluation();
        long before = 0;
        for (var i = 0; i < 5; i++)
        {
            before = GC.GetAllocatedBytesForCurrentThread();
            evaluation.Run(plan, Fixture.Products, cart, Fixture.Today);
        }

        (GC.GetAllocatedBytesForCurrentThread() - before).ShouldBe(0);
        evaluation.Asked.Count(static a => a.Value is not null).ShouldBe(20);
    }

    [Fact]
    public void A_cart_with_problems_cannot_be_frozen() =>
        Should.Throw<InvalidOperationException>(() => Fixture.Order(Fixture.Evaluate(Fixture.Cart(null), Fixture.Wording())));

    /// <summary>One instance serves many carts: what it needed for one it uses for the next, refusals among it.</summary>
    [Fact]
    public void A_thousand_carts_take_no_more_room_than_ten()
    {
        var (plan, evaluation) = (Fixture.Plan(Fixture.Wording()), new Evaluation());
        var cart = Fixture.Of([.. Enumerable.Range(0, 20).Select(static _ => Fixture.Line("LABEL"))]) with { Answers = AnswerSet.Empty };
        long Allocated(int times)
        {
            var before = GC.GetAllocatedBytesForCurrentThread();
            for (var i = 0; i < times; i++)
            {
                evaluation.Run(plan, Fixture.Products, cart, Fixture.Today);
            }

            return GC.GetAllocatedBytesForCurrentThread() - before;
        }

        Allocated(10);
        evaluation.Problems.Count.ShouldBeGreaterThan(20);
        Allocated(1000).ShouldBeLessThan(10_000);
    }
}
