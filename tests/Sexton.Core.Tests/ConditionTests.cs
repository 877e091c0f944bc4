using System.Text.Json;
using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Register;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>Conditions: every relation and group as a table, quantifiers, what cannot be bound, sentences and explanations.</summary>
public sealed class ConditionTests
{
    // One field of every kind of fact, none of which must be answered; "target" is what is asked under the condition.
    private static readonly Field[] Fields =
    [
        Fixture.Ask("text", "line_text"),
        Fixture.Ask("number", "number", ("decimals", 2)),
        Fixture.Ask("day", "date"),
        Fixture.Ask("truth", "yes_no"),
        Fixture.Ask("choice", "one_of", ("choices", Fixture.Choices("red", "blue", "green"))),
        Fixture.Ask("list", "several_of", ("choices", Fixture.Choices("a", "b", "c"))),
        Fixture.Ask("amount", "amount_of_money"),
        Fixture.Ask("counts", "how_many_of_each", ("choices", Fixture.Choices("a", "b", "c"))),
        Fixture.Ask("slot", "time_slot", ("choices", Fixture.Choices("a", "b", "c"))),
        Fixture.Ask("agreed", "agreed_to", ("terms", new Dictionary<string, string>(StringComparer.Ordinal) { ["en"] = "Wear boots." })),
        Fixture.Ask("land", "country"),
        Fixture.AskOrder("order_text", "line_text") with
        {
            Step = "product_page",
        },
        Fixture.AskUnit("unit_number", "number"),
    ];

    [Theory]
    // the test, what was answered (JSON; "" for nothing), whether it holds
    [InlineData("'fact': 'answer.text', 'is': 'is', 'value': 'Zoë'", "'Zoë'", true)]
    [InlineData("'fact': 'answer.text', 'is': 'is', 'value': 'Zoë'", "'zoë'", false)]
    [InlineData("'fact': 'answer.text', 'is': 'is', 'value': 'Zoë'", "", false)]
    [InlineData("'fact': 'answer.text', 'is': 'is_not', 'value': 'Zoë'", "'Odile'", true)]
    [InlineData("'fact': 'answer.text', 'is': 'is_not', 'value': 'Zoë'", "'Zoë'", false)]
    [InlineData("'fact': 'answer.text', 'is': 'is_not', 'value': 'Zoë'", "", false)]
    [InlineData("'fact': 'answer.text', 'is': 'is_among', 'value': ['a', 'b']", "'b'", true)]
    [InlineData("'fact': 'answer.text', 'is': 'is_among', 'value': ['a', 'b']", "'c'", false)]
    [InlineData("'fact': 'answer.text', 'is': 'is_among', 'value': ['a', 'b']", "", false)]
    [InlineData("'fact': 'answer.text', 'is': 'is_not_among', 'value': ['a', 'b']", "'c'", true)]
    [InlineData("'fact': 'answer.text', 'is': 'is_not_among', 'value': ['a', 'b']", "'a'", false)]
    [InlineData("'fact': 'answer.text', 'is': 'is_not_among', 'value': ['a', 'b']", "", false)]
    [InlineData("'fact': 'answer.text', 'is': 'has_in_it', 'value': 'mutter'", "'Großmutter'", true)]
    [InlineData("'fact': 'answer.text', 'is': 'has_in_it', 'value': 'x'", "'Großmutter'", false)]
    [InlineData("'fact': 'answer.text', 'is': 'has_not_in_it', 'value': 'x'", "'Großmutter'", true)]
    [InlineData("'fact': 'answer.text', 'is': 'has_not_in_it', 'value': 'x'", "", false)]
    [InlineData("'fact': 'answer.text', 'is': 'was_not_given'", "", true)]
    [InlineData("'fact': 'answer.text', 'is': 'was_not_given'", "'  '", true)]
    [InlineData("'fact': 'answer.text', 'is': 'was_not_given'", "'a'", false)]
    [InlineData("'fact': 'answer.text', 'is': 'was_given'", "'a'", true)]
    [InlineData("'fact': 'answer.text', 'is': 'was_given'", "", false)]
    [InlineData("'fact': 'answer.number', 'is': 'is', 'value': 2.5", "'2,50'", true)]
    [InlineData("'fact': 'answer.number', 'is': 'is_not', 'value': 2.5", "2.51", true)]
    [InlineData("'fact': 'answer.number', 'is': 'over', 'value': 2.5", "2.5", false)]
    [InlineData("'fact': 'answer.number', 'is': 'over', 'value': 2.5", "2.51", true)]
    [InlineData("'fact': 'answer.number', 'is': 'over', 'value': -1", "", false)] // nothing is not 0
    [InlineData("'fact': 'answer.number', 'is': 'under', 'value': 2.5", "2.49", true)]
    [InlineData("'fact': 'answer.number', 'is': 'under', 'value': 1", "", false)]
    [InlineData("'fact': 'answer.number', 'is': 'at_least', 'value': 2.5", "2.5", true)]
    [InlineData("'fact': 'answer.number', 'is': 'at_most', 'value': 2.5", "2.5", true)]
    [InlineData("'fact': 'answer.number', 'is': 'at_most', 'value': 2.5", "3", false)]
    [InlineData("'fact': 'answer.number', 'is': 'was_not_given'", "'three'", true)] // refused is not answered
    [InlineData("'fact': 'answer.day', 'is': 'is', 'value': '2027-03-01'", "'2027-03-01'", true)]
    [InlineData("'fact': 'answer.day', 'is': 'over', 'value': '2027-02-28'", "'2027-03-01'", true)]
    [InlineData("'fact': 'answer.day', 'is': 'under', 'value': '2027-03-01'", "'2027-03-01'", false)]
    [InlineData("'fact': 'answer.day', 'is': 'at_most', 'value': '2027-03-01'", "'2027-03-01'", true)]
    [InlineData("'fact': 'answer.day', 'is': 'at_least', 'value': '2027-03-01'", "", false)]
    [InlineData("'fact': 'answer.truth', 'is': 'is', 'value': true", "true", true)]
    [InlineData("'fact': 'answer.truth', 'is': 'is', 'value': false", "", false)] // not answered is not no
    [InlineData("'fact': 'answer.truth', 'is': 'is_not', 'value': true", "false", true)]
    [InlineData("'fact': 'answer.truth', 'is': 'is_not', 'value': true", "", false)]
    [InlineData("'fact': 'answer.choice', 'is': 'is', 'value': 'red'", "'red'", true)]
    [InlineData("'fact': 'answer.choice', 'is': 'is_among', 'value': ['red', 'blue']", "'green'", false)]
    [InlineData("'fact': 'answer.choice', 'is': 'is_not_among', 'value': ['red', 'blue']", "'green'", true)]
    [InlineData("'fact': 'answer.list', 'is': 'has_in_it', 'value': 'b'", "['a', 'b']", true)]
    [InlineData("'fact': 'answer.list', 'is': 'has_in_it', 'value': 'c'", "['a', 'b']", false)]
    [InlineData("'fact': 'answer.list', 'is': 'has_not_in_it', 'value': 'c'", "['a', 'b']", true)]
    [InlineData("'fact': 'answer.list', 'is': 'has_not_in_it', 'value': 'c'", "", false)]
    [InlineData("'fact': 'answer.list', 'is': 'was_not_given'", "[]", true)]
    [InlineData("'fact': 'answer.amount', 'is': 'at_least', 'value': 25.5", "'€ 25,50'", true)]
    [InlineData("'fact': 'answer.counts', 'is': 'at_least', 'value': 12", "{'a': '7', 'c': '5'}", true)] // how many in all
    [InlineData("'fact': 'answer.counts', 'is': 'over', 'value': 12", "{'a': '7', 'c': '5'}", false)]
    [InlineData("'fact': 'answer.counts', 'is': 'under', 'value': 1", "{'a': '0'}", false)] // none is not answered
    [InlineData("'fact': 'answer.slot', 'is': 'over', 'value': '2027-03-30'", "{'day': '2027-03-31', 'slot': 'a'}", true)] // the day
    [InlineData("'fact': 'answer.slot', 'is': 'is', 'value': '2027-03-30'", "{'day': '2027-03-31', 'slot': 'a'}", false)]
    [InlineData("'fact': 'answer.agreed', 'is': 'is', 'value': true", "{'text': 'Wear boots.'}", true)]
    [InlineData("'fact': 'answer.agreed', 'is': 'is', 'value': true", "{'text': 'Wear what you like.'}", false)]
    [InlineData("'fact': 'answer.agreed', 'is': 'was_given'", "", false)]
    [InlineData("'fact': 'answer.land', 'is': 'is_among', 'value': ['IE', 'GB']", "'GB'", true)]
    public void A_relation_holds_or_not(string test, string answer, bool holds)
    {
        var condition = Fixture.Condition("{" + test + "}");
        var field = ShopFacts.FieldOf(((ConditionTest)condition).Fact)!;
        var line = Fixture.Line("TREE");
        line =
            answer.Length == 0
                ? line
                : line with
                {
                    Answers = AnswerSet.Empty.With(field, JsonSerializer.Deserialize<AnswerValue>(answer.Replace('\'', '"'))!),
                };
        Holds(condition, Fixture.Of(line)).ShouldBe(holds);
    }

    [Theory]
    // condition, cart (products with quantities), group, country, whether it holds for the first line
    [InlineData("{'fact': 'product', 'is': 'is', 'value': 'TREE'}", "TREE", "", "", true)]
    [InlineData("{'fact': 'product', 'is': 'is_not_among', 'value': ['TREE', 'TALL']}", "TREE", "", "", false)]
    [InlineData("{'fact': 'variant', 'is': 'is', 'value': 'POT-L'}", "POT/POT-L", "", "", true)]
    [InlineData("{'fact': 'variant', 'is': 'is_not', 'value': 'POT-L'}", "TREE", "", "", false)] // no variant at all
    [InlineData("{'fact': 'category', 'is': 'is', 'value': 'Trees'}", "TALL", "", "", true)]
    [InlineData("{'fact': 'tag', 'is': 'has_in_it', 'value': 'fruit'}", "TREE", "", "", true)]
    [InlineData("{'fact': 'tag', 'is': 'has_not_in_it', 'value': 'fruit'}", "LABEL", "", "", false)] // no tags at all
    [InlineData("{'fact': 'tag', 'is': 'was_not_given'}", "LABEL", "", "", true)]
    [InlineData("{'fact': 'attribute.height', 'is': 'over', 'value': 3}", "TALL", "", "", true)]
    [InlineData("{'fact': 'attribute.height', 'is': 'over', 'value': 3}", "TREE", "", "", false)]
    [InlineData("{'fact': 'attribute.height', 'is': 'over', 'value': 0.5}", "POT/POT-L", "", "", true)] // the variant's own
    [InlineData("{'fact': 'attribute.height', 'is': 'under', 'value': 9}", "LABEL", "", "", false)] // a label has no height
    [InlineData("{'fact': 'attribute.height', 'is': 'was_not_given'}", "LABEL", "", "", true)]
    [InlineData("{'fact': 'quantity', 'is': 'at_least', 'value': 3}", "TREE*3", "", "", true)]
    [InlineData("{'fact': 'ships', 'is': 'is', 'value': false}", "WALK", "", "", true)]
    [InlineData("{'fact': 'cart_total', 'is': 'over', 'value': 89.5}", "TREE", "", "", false)]
    [InlineData("{'fact': 'cart_total', 'is': 'at_least', 'value': 89.5}", "TREE", "", "", true)]
    [InlineData("{'fact': 'cart_total', 'is': 'is', 'value': 106.5}", "TREE LABEL", "", "", true)]
    [InlineData("{'fact': 'cart_count', 'is': 'is', 'value': 5}", "TREE*3 LABEL*2", "", "", true)]
    [InlineData("{'fact': 'group', 'is': 'is', 'value': 'trade'}", "TREE", "trade", "", true)]
    [InlineData("{'fact': 'group', 'is': 'is_not', 'value': 'trade'}", "TREE", "", "", true)] // known from the start: household
    [InlineData("{'fact': 'group', 'is': 'is', 'value': 'household'}", "TREE", "nonsense", "", true)]
    [InlineData("{'fact': 'country', 'is': 'is', 'value': 'IE'}", "TREE", "", "DE", true)] // the delivery address says it better
    [InlineData("{'fact': 'date', 'is': 'at_least', 'value': '2026-11-25'}", "TREE", "", "", true)]
    [InlineData("{'fact': 'date', 'is': 'over', 'value': '2026-11-25'}", "TREE", "", "", false)]
    [InlineData("{'all': []}", "TREE", "", "", true)]
    [InlineData("{'any': []}", "TREE", "", "", false)]
    [InlineData("{'none': []}", "TREE", "", "", true)]
    [InlineData(
        "{'all': [{'fact': 'quantity', 'is': 'is', 'value': 1}, {'fact': 'product', 'is': 'is', 'value': 'TALL'}]}",
        "TREE",
        "",
        "",
        false
    )]
    [InlineData(
        "{'any': [{'fact': 'quantity', 'is': 'is', 'value': 1}, {'fact': 'product', 'is': 'is', 'value': 'TALL'}]}",
        "TREE",
        "",
        "",
        true
    )]
    [InlineData(
        "{'none': [{'fact': 'quantity', 'is': 'is', 'value': 2}, {'fact': 'product', 'is': 'is', 'value': 'TALL'}]}",
        "TREE",
        "",
        "",
        true
    )]
    [InlineData("{'none': [{'fact': 'quantity', 'is': 'is', 'value': 1}]}", "TREE", "", "", false)]
    [InlineData("{'lines': 'any', 'where': {'fact': 'product', 'is': 'is', 'value': 'TALL'}}", "TREE TALL", "", "", true)]
    [InlineData("{'lines': 'every', 'where': {'fact': 'category', 'is': 'is', 'value': 'Trees'}}", "TREE TALL", "", "", true)]
    [InlineData("{'lines': 'every', 'where': {'fact': 'category', 'is': 'is', 'value': 'Trees'}}", "TREE LABEL", "", "", false)]
    [InlineData("{'lines': 'none', 'where': {'fact': 'category', 'is': 'is', 'value': 'Walks'}}", "TREE LABEL", "", "", true)]
    [InlineData(
        "{'lines': 'count', 'is': 'at_least', 'value': 2, 'where': {'fact': 'category', 'is': 'is', 'value': 'Trees'}}",
        "TREE TALL",
        "",
        "",
        true
    )]
    [InlineData("{'lines': 'count', 'is': 'over', 'value': 2}", "TREE TALL", "", "", false)]
    // One and the same line must be tall and many: the body binds one line.
    [InlineData(
        "{'lines': 'any', 'where': {'all': [{'fact': 'product', 'is': 'is', 'value': 'TALL'}, {'fact': 'quantity', 'is': 'over', 'value': 1}]}}",
        "TREE*2 TALL",
        "",
        "",
        false
    )]
    // Over nothing: a tree has no units.
    [InlineData("{'units': 'every', 'where': {'fact': 'answer.unit_number', 'is': 'was_not_given'}}", "TREE", "", "", false)]
    [InlineData("{'units': 'none', 'where': {'fact': 'answer.unit_number', 'is': 'was_not_given'}}", "TREE", "", "", true)]
    [InlineData("{'units': 'count', 'is': 'is', 'value': 3}", "WALK*3", "", "", true)]
    public void A_fact_or_group_holds_or_not(string condition, string products, string group, string country, bool holds)
    {
        var cart = Fixture.Of([.. products.Split(' ').Select(LineOf)]) with { Group = group, Country = country };
        Holds(Fixture.Condition(condition), cart, step: Step.Cart.Key).ShouldBe(holds);
    }

    [Theory]
    // the numbers answered for three seats ("-" for none), the quantifier, whether it holds
    [InlineData("5 6 7", "'units': 'every'", true)]
    [InlineData("5 - 7", "'units': 'every'", false)]
    [InlineData("1 1 7", "'units': 'any'", true)]
    [InlineData("1 - -", "'units': 'any'", false)]
    [InlineData("1 - -", "'units': 'none'", true)]
    [InlineData("5 1 7", "'units': 'count', 'is': 'is', 'value': 2", true)]
    public void A_quantifier_tests_each_unit(string answers, string quantifier, bool holds)
    {
        var units = answers
            .Split(' ')
            .Select((a, i) => new CartUnit("u" + i, a == "-" ? AnswerSet.Empty : Fixture.Answers(("unit_number", a))));
        var cart = Fixture.Of(Fixture.Line("WALK", 3) with { Units = [.. units] });
        Holds(Fixture.Condition($"{{{quantifier}, 'where': {{'fact': 'answer.unit_number', 'is': 'at_least', 'value': 5}}}}"), cart)
            .ShouldBe(holds);
    }

    public static TheoryData<string, Level, string, string> Unbindable() =>
        new()
        {
            { "{'fact': 'moon', 'is': 'is', 'value': 'full'}", Level.Line, "product_page", "There is no fact “moon”. Choose another." },
            { "{'fact': 'answer.nobody', 'is': 'was_given'}", Level.Line, "product_page", "There is no field “nobody”. Choose another." },
            {
                "{'fact': 'answer.text', 'is': 'over', 'value': 3}",
                Level.Line,
                "product_page",
                "“answer.text” cannot be compared with “is over”. Choose another comparison."
            },
            {
                "{'fact': 'answer.number', 'is': 'over', 'value': 'three'}",
                Level.Line,
                "product_page",
                "Say with which number it is compared."
            },
            { "{'fact': 'answer.text', 'is': 'is'}", Level.Line, "product_page", "Say what it is compared with." },
            {
                "{'fact': 'group', 'is': 'is_among', 'value': []}",
                Level.Line,
                "product_page",
                "Say what it is compared with: choose from the list."
            },
            { "{'fact': 'date', 'is': 'is', 'value': 'Christmas'}", Level.Line, "product_page", "Give the day as 2027-03-31." },
            {
                "{'fact': 'answer.text', 'is': 'was_given'}",
                Level.Order,
                "cart",
                "“The text” belongs to one line. Say over which lines it is tested: any, every, none, or how many."
            },
            {
                "{'fact': 'product', 'is': 'is', 'value': 'TREE'}",
                Level.Order,
                "cart",
                "The product belongs to one line. Say over which lines it is tested: any, every, none, or how many."
            },
            {
                "{'fact': 'answer.unit_number', 'is': 'was_given'}",
                Level.Line,
                "product_page",
                "“The unit_number” is answered for each one of a line. Say over which units it is tested: any, every, none, or how many."
            },
            {
                "{'fact': 'answer.delivery_method', 'is': 'is', 'value': 'sent'}",
                Level.Line,
                "product_page",
                "“How it reaches you” is asked only later. Ask this at that step or after it."
            },
            {
                "{'fact': 'cart_total', 'is': 'over', 'value': 1}",
                Level.Line,
                "product_page",
                "The cart’s total is known only later. Ask this at that step or after it."
            },
            {
                "{'lines': 'any', 'where': {'fact': 'ships', 'is': 'is', 'value': true}}",
                Level.Line,
                "product_page",
                "Which lines there are is known from the cart on. Ask it in the cart or later."
            },
        };

    [Theory]
    [MemberData(nameof(Unbindable))]
    public void What_cannot_be_bound_is_refused_with_the_remedy(string condition, Level level, string step, string sentence)
    {
        var target = Fixture.Ask("target", "line_text") with { Level = level, Step = step, When = Fixture.Condition(condition) };
        var compiled = RegisterPlan.Compile(Fixture.Register([.. Fields, target]), FieldTypes.Standard);
        compiled.Problems.Single().ShouldBe(new CompileProblem("target", "when", sentence));
        compiled.Plan.Find("target").ShouldBeNull();
    }

    [Fact]
    public void Circles_are_named_and_all_in_them_left_out()
    {
        Field Waits(string key, string on) =>
            Fixture.Ask(key, "line_text") with
            {
                When = Fixture.Condition($"{{'fact': 'answer.{on}', 'is': 'was_given'}}"),
            };
        var compiled = RegisterPlan.Compile(
            Fixture.Register(Waits("a", "b"), Waits("b", "c"), Waits("c", "a"), Waits("d", "a"), Fixture.Ask("e", "line_text")),
            FieldTypes.Standard
        );
        compiled.Problems.Select(p => p.Field).Order(StringComparer.Ordinal).ShouldBe(["a", "b", "c"]);
        compiled
            .Problems[0]
            .Sentence.ShouldBe("“The a” waits for “The b” waits for “The c” waits for “The a”. Take one of these conditions away.");
        compiled.Plan.LineFields.Select(f => f.Field.Key).ShouldBe(["e"]);
    }

    [Theory]
    [InlineData("{'fact': 'attribute.height', 'is': 'over', 'value': 3}", "the height is over 3 m")]
    [InlineData("{'fact': 'group', 'is': 'is_not', 'value': 'trade'}", "the shopper group is not trade")]
    [InlineData("{'fact': 'tag', 'is': 'has_in_it', 'value': 'fruit'}", "the product is tagged “fruit”")]
    [InlineData("{'fact': 'ships', 'is': 'is', 'value': false}", "the product is not sent")]
    [InlineData("{'fact': 'cart_total', 'is': 'at_least', 'value': 50}", "the cart’s total is at least €\u00a050.00")]
    [InlineData("{'fact': 'country', 'is': 'is_among', 'value': ['IE', 'GB']}", "the country is among Ireland or United Kingdom")]
    [InlineData("{'fact': 'product', 'is': 'is', 'value': 'TALL'}", "the product is “Hornbeam”")]
    [InlineData("{'fact': 'answer.choice', 'is': 'is', 'value': 'red'}", "“The choice” is “A red”")]
    [InlineData("{'fact': 'answer.day', 'is': 'over', 'value': '2027-03-01'}", "“The day” is after 2027-03-01")]
    [InlineData("{'fact': 'answer.truth', 'is': 'is', 'value': true}", "“The truth” is yes")]
    [InlineData("{'fact': 'answer.text', 'is': 'was_not_given'}", "“The text” was not given")]
    [InlineData(
        "{'any': [{'all': [{'fact': 'attribute.height', 'is': 'over', 'value': 3}, {'fact': 'group', 'is': 'is_not', 'value': 'trade'}]}, {'fact': 'quantity', 'is': 'under', 'value': 2}]}",
        "the height is over 3 m and the shopper group is not trade, or the quantity is under 2"
    )]
    [InlineData(
        "{'none': [{'fact': 'quantity', 'is': 'is', 'value': 1}, {'fact': 'quantity', 'is': 'is', 'value': 2}]}",
        "it is not so that the quantity is 1 or the quantity is 2"
    )]
    [InlineData(
        "{'lines': 'any', 'where': {'fact': 'category', 'is': 'is', 'value': 'Trees'}}",
        "there is a line of which the category is Trees"
    )]
    [InlineData("{'units': 'count', 'is': 'over', 'value': 2}", "the number of units is over 2")]
    [InlineData("{'fact': 'answer.gone', 'is': 'was_given'}", "“gone” was given")]
    public void A_condition_is_one_plain_sentence(string condition, string sentence) =>
        Fixture.Words(Fixture.Register(Fields)).Sentence(Fixture.Condition(condition)).ShouldBe(sentence);

    [Fact]
    public void Each_test_says_whether_it_holds_and_what_it_saw()
    {
        const string Json =
            "{'any': [{'all': [{'fact': 'attribute.height', 'is': 'over', 'value': 3}, {'fact': 'group', 'is': 'is_not', 'value': 'trade'}]}, {'fact': 'answer.number', 'is': 'under', 'value': 120}, {'lines': 'count', 'is': 'over', 'value': 1}]}";
        var condition = Fixture.Condition(Json);
        var plan = Fixture.Plan([.. Fields, Target(condition, Step.Cart.Key)]);
        var evaluation = Fixture.Evaluate(plan, Fixture.Of(Fixture.Line("TALL")) with { Group = "trade" });
        var field = plan.Find("target")!;
        var explained = new ConditionExplainer(evaluation.Facts, Fixture.Words(plan.Content)).Explain(
            condition,
            field.When!,
            new Place(0, -1)
        );
        explained.Holds.ShouldBeFalse();
        explained.Parts[0].Parts.Select(p => (p.Holds, p.Saw)).ShouldBe([(true, "it is 3.5 m"), (false, "it is trade")]);
        explained.Parts.Skip(1).Select(p => (p.Holds, p.Saw)).ShouldBe([(false, "not answered yet"), (false, "1 of 1 line")]);
    }

    [Theory]
    [InlineData(
        "{'all': [{'fact': 'attribute.height', 'is': 'over', 'value': 3}, {'none': [{'lines': 'any', 'where': {'fact': 'ships', 'is': 'is', 'value': true}}]}]}"
    )]
    [InlineData("{'units': 'count', 'is': 'at_most', 'value': 2, 'where': {'fact': 'answer.x', 'is': 'is_among', 'value': ['a', 'b']}}")]
    public void A_condition_survives_its_json_form(string json)
    {
        var condition = Fixture.Condition(json);
        var written = JsonSerializer.Serialize(condition, DocumentJson.Options);
        written.ShouldBe(json.Replace('\'', '"').Replace(": ", ":", StringComparison.Ordinal).Replace(", ", ",", StringComparison.Ordinal));
        JsonSerializer.Deserialize<Condition>(written, DocumentJson.Options).ShouldBe(condition);
    }

    [Theory]
    [InlineData("[]")]
    [InlineData("{}")]
    [InlineData("{'fact': 3, 'is': 'is'}")]
    [InlineData("{'fact': 'quantity', 'is': 'resembles', 'value': 1}")]
    [InlineData("{'fact': 'quantity', 'is': 0, 'value': 1}")]
    [InlineData("{'lines': 'most'}")]
    [InlineData("{'lines': 'count', 'is': 'over', 'value': 1.5}")]
    [InlineData("{'all': {'fact': 'quantity', 'is': 'was_given'}}")]
    [InlineData(
        "{'all': [{'all': [{'all': [{'all': [{'all': [{'all': [{'all': [{'all': [{'all': [{'all': [{'all': [{'all': [{'all': []}]}]}]}]}]}]}]}]}]}]}]}]}"
    )]
    public void What_is_no_condition_is_refused(string json) => Should.Throw<JsonException>(() => Fixture.Condition(json));

    private static CartLine LineOf(string text)
    {
        var parts = text.Split('*');
        var line = Fixture.Line(parts[0], parts.Length > 1 ? int.Parse(parts[1], System.Globalization.CultureInfo.InvariantCulture) : 1);
        return parts[0] == "WALK" ? line.WithUnits() : line;
    }

    private static Field Target(Condition condition, string step) =>
        Fixture.Ask("target", "line_text") with
        {
            Step = step,
            When = condition,
        };

    private static bool Holds(Condition condition, CartContent cart, string step = "product_page") =>
        Fixture
            .Evaluate(Fixture.Plan([.. Fields, Target(condition, step)]), cart)
            .Asked.Any(a => a.Field.Key == "target" && a.LineId == "l1");
}
