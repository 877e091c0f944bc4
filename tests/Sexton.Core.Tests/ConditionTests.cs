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
        Fixture.Ask("text_2", "line_text"),
        Fixture.Ask("number_2", "number", ("decimals", 2)),
        Fixture.Ask("metres", "number", ("unit", "m")),
        Fixture.Ask("centimetres", "number", ("unit", "cm")),
        Fixture.Ask("day_2", "date"),
        Fixture.Ask("truth_2", "yes_no"),
        Fixture.Ask("choice_2", "one_of", ("choices", Fixture.Choices("red", "blue", "green"))),
        Fixture.Ask("colours", "several_of", ("choices", Fixture.Choices("red", "blue", "green"))),
        Fixture.AskOrder("order_text", "line_text") with
        {
            Step = "product_page",
        },
        Fixture.AskUnit("unit_number", "number"),
    ];

    [Theory]
    // the test, what was answered (JSON; "" for nothing), whether it holds
    [InlineData("'of': 'answer.text', 'is': 'Zoë'", "'Zoë'", true)]
    [InlineData("'of': 'answer.text', 'is': 'Zoë'", "'zoë'", false)]
    [InlineData("'of': 'answer.text', 'is': 'Zoë'", "", false)]
    [InlineData("'of': 'answer.text', 'is_not': 'Zoë'", "'Odile'", true)]
    [InlineData("'of': 'answer.text', 'is_not': 'Zoë'", "'Zoë'", false)]
    [InlineData("'of': 'answer.text', 'is_not': 'Zoë'", "", false)]
    [InlineData("'of': 'answer.text', 'is_among': ['a', 'b']", "'b'", true)]
    [InlineData("'of': 'answer.text', 'is_among': ['a', 'b']", "'c'", false)]
    [InlineData("'of': 'answer.text', 'is_among': ['a', 'b']", "", false)]
    [InlineData("'of': 'answer.text', 'is_not_among': ['a', 'b']", "'c'", true)]
    [InlineData("'of': 'answer.text', 'is_not_among': ['a', 'b']", "'a'", false)]
    [InlineData("'of': 'answer.text', 'is_not_among': ['a', 'b']", "", false)]
    [InlineData("'of': 'answer.text', 'has_in_it': 'mutter'", "'Großmutter'", true)]
    [InlineData("'of': 'answer.text', 'has_in_it': 'x'", "'Großmutter'", false)]
    [InlineData("'of': 'answer.text', 'has_not_in_it': 'x'", "'Großmutter'", true)]
    [InlineData("'of': 'answer.text', 'has_not_in_it': 'x'", "", false)]
    [InlineData("'of': 'answer.text', 'was_not_given': true", "", true)]
    [InlineData("'of': 'answer.text', 'was_not_given': true", "'  '", true)]
    [InlineData("'of': 'answer.text', 'was_not_given': true", "'a'", false)]
    [InlineData("'of': 'answer.text', 'was_given': true", "'a'", true)]
    [InlineData("'of': 'answer.text', 'was_given': true", "", false)]
    [InlineData("'of': 'answer.number', 'is': 2.5", "'2,50'", true)]
    [InlineData("'of': 'answer.number', 'is_not': 2.5", "2.51", true)]
    [InlineData("'of': 'answer.number', 'over': 2.5", "2.5", false)]
    [InlineData("'of': 'answer.number', 'over': 2.5", "2.51", true)]
    [InlineData("'of': 'answer.number', 'over': -1", "", false)] // nothing is not 0
    [InlineData("'of': 'answer.number', 'under': 2.5", "2.49", true)]
    [InlineData("'of': 'answer.number', 'under': 1", "", false)]
    [InlineData("'of': 'answer.number', 'at_least': 2.5", "2.5", true)]
    [InlineData("'of': 'answer.number', 'at_most': 2.5", "2.5", true)]
    [InlineData("'of': 'answer.number', 'at_most': 2.5", "3", false)]
    [InlineData("'of': 'answer.number', 'was_not_given': true", "'three'", true)] // refused is not answered
    [InlineData("'of': 'answer.day', 'is': '2027-03-01'", "'2027-03-01'", true)]
    [InlineData("'of': 'answer.day', 'over': '2027-02-28'", "'2027-03-01'", true)]
    [InlineData("'of': 'answer.day', 'under': '2027-03-01'", "'2027-03-01'", false)]
    [InlineData("'of': 'answer.day', 'at_most': '2027-03-01'", "'2027-03-01'", true)]
    [InlineData("'of': 'answer.day', 'at_least': '2027-03-01'", "", false)]
    [InlineData("'of': 'answer.truth', 'is': true", "true", true)]
    [InlineData("'of': 'answer.truth', 'is': false", "", false)] // not answered is not no
    [InlineData("'of': 'answer.truth', 'is_not': true", "false", true)]
    [InlineData("'of': 'answer.truth', 'is_not': true", "", false)]
    [InlineData("'of': 'answer.choice', 'is': 'red'", "'red'", true)]
    [InlineData("'of': 'answer.choice', 'is_among': ['red', 'blue']", "'green'", false)]
    [InlineData("'of': 'answer.choice', 'is_not_among': ['red', 'blue']", "'green'", true)]
    [InlineData("'of': 'answer.list', 'has_in_it': 'b'", "['a', 'b']", true)]
    [InlineData("'of': 'answer.list', 'has_in_it': 'c'", "['a', 'b']", false)]
    [InlineData("'of': 'answer.list', 'has_not_in_it': 'c'", "['a', 'b']", true)]
    [InlineData("'of': 'answer.list', 'has_not_in_it': 'c'", "", false)]
    [InlineData("'of': 'answer.list', 'was_not_given': true", "[]", true)]
    [InlineData("'of': 'answer.amount', 'at_least': 25.5", "'€ 25,50'", true)]
    [InlineData("'of': 'answer.counts', 'at_least': 12", "{'a': '7', 'c': '5'}", true)] // how many in all
    [InlineData("'of': 'answer.counts', 'over': 12", "{'a': '7', 'c': '5'}", false)]
    [InlineData("'of': 'answer.counts', 'under': 1", "{'a': '0'}", false)] // none is not answered
    [InlineData("'of': 'answer.slot', 'over': '2027-03-30'", "{'day': '2027-03-31', 'slot': 'a'}", true)] // the day
    [InlineData("'of': 'answer.slot', 'is': '2027-03-30'", "{'day': '2027-03-31', 'slot': 'a'}", false)]
    [InlineData("'of': 'answer.agreed', 'is': true", "{'text': 'Wear boots.'}", true)]
    [InlineData("'of': 'answer.agreed', 'is': true", "{'text': 'Wear what you like.'}", false)]
    [InlineData("'of': 'answer.agreed', 'was_given': true", "", false)]
    [InlineData("'of': 'answer.land', 'is_among': ['IE', 'GB']", "'GB'", true)]
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
    // the test, what was answered, whether it holds
    [InlineData("'of': 'answer.text', 'is': {'of': 'answer.text_2'}", "'text': 'Zoë', 'text_2': 'Zoë'", true)]
    [InlineData("'of': 'answer.text', 'is': {'of': 'answer.text_2'}", "'text': 'Zoë', 'text_2': 'zoë'", false)]
    [InlineData("'of': 'answer.text', 'is': {'of': 'answer.text_2'}", "", false)] // nothing is not the same as nothing
    [InlineData("'of': 'answer.text', 'is_not': {'of': 'answer.text_2'}", "'text': 'Zoë', 'text_2': 'Bo'", true)]
    [InlineData("'of': 'answer.text', 'is_not': {'of': 'answer.text_2'}", "'text': 'Zoë'", false)] // the later one first
    [InlineData("'of': 'answer.text', 'is_not': {'of': 'answer.text_2'}", "'text_2': 'Zoë'", false)]
    [InlineData("'of': 'answer.text', 'has_in_it': {'of': 'answer.text_2'}", "'text': 'Großmutter', 'text_2': 'mutter'", true)]
    [InlineData("'of': 'answer.text', 'has_not_in_it': {'of': 'answer.text_2'}", "'text': 'Großmutter', 'text_2': 'vater'", true)]
    [InlineData("'of': 'answer.text', 'has_not_in_it': {'of': 'answer.text_2'}", "'text': 'Großmutter'", false)]
    [InlineData("'of': 'answer.text', 'is': {'of': 'answer.order_text'}", "'text': 'a'", true)] // of the order around it, which says a
    [InlineData("'of': 'answer.number', 'over': {'of': 'answer.number_2'}", "'number': '3', 'number_2': '2,99'", true)]
    [InlineData("'of': 'answer.number', 'over': {'of': 'answer.number_2'}", "'number': '3', 'number_2': '3.00'", false)]
    [InlineData("'of': 'answer.number', 'at_least': {'of': 'answer.number_2'}", "'number': '3', 'number_2': '3.00'", true)]
    [InlineData("'of': 'answer.number', 'over': {'of': 'answer.number_2'}", "'number': '3'", false)] // nothing is not 0
    [InlineData("'of': 'answer.number', 'over': {'of': 'answer.number_2'}", "'number': '3', 'number_2': 'two'", false)] // refused is not answered
    [InlineData("'of': 'answer.number', 'under': {'of': 'quantity'}", "'number': '0.5'", true)]
    [InlineData("'of': 'answer.number', 'over': {'of': 'attribute.height'}", "'number': '9'", true)]
    [InlineData("'of': 'attribute.height', 'under': {'of': 'answer.number'}", "'number': '9'", true)]
    [InlineData("'of': 'attribute.height', 'is': {'of': 'attribute.height'}", "", true)]
    [InlineData("'of': 'answer.number', 'over': {'of': 'attribute.depth'}", "'number': '9'", false)] // which it has not
    [InlineData("'of': 'answer.day', 'over': {'of': 'answer.day_2'}", "'day': '2027-03-02', 'day_2': '2027-03-01'", true)]
    [InlineData("'of': 'answer.day', 'at_most': {'of': 'answer.day_2'}", "'day': '2027-03-02', 'day_2': '2027-03-01'", false)]
    [InlineData("'of': 'answer.day', 'over': {'of': 'date'}", "'day': '2026-11-26'", true)]
    [InlineData("'of': 'answer.slot', 'is': {'of': 'answer.day'}", "'day': '2027-03-31', 'slot': {'day': '2027-03-31', 'slot': 'a'}", true)]
    [InlineData("'of': 'answer.truth', 'is': {'of': 'answer.truth_2'}", "'truth': false, 'truth_2': false", true)]
    [InlineData("'of': 'answer.truth', 'is_not': {'of': 'answer.truth_2'}", "'truth': true, 'truth_2': false", true)]
    [InlineData("'of': 'answer.truth', 'is_not': {'of': 'answer.truth_2'}", "'truth': true", false)]
    [InlineData("'of': 'answer.choice', 'is': {'of': 'answer.choice_2'}", "'choice': 'red', 'choice_2': 'red'", true)]
    [InlineData("'of': 'answer.choice_2', 'is_among': {'of': 'answer.colours'}", "'choice_2': 'red', 'colours': ['blue', 'red']", true)]
    [InlineData("'of': 'answer.choice_2', 'is_not_among': {'of': 'answer.colours'}", "'choice_2': 'red', 'colours': ['blue']", true)]
    [InlineData("'of': 'answer.choice_2', 'is_not_among': {'of': 'answer.colours'}", "'choice_2': 'red'", false)]
    [InlineData("'of': 'answer.colours', 'has_in_it': {'of': 'answer.choice_2'}", "'choice_2': 'red', 'colours': ['blue', 'red']", true)]
    [InlineData(
        "'of': 'answer.colours', 'has_not_in_it': {'of': 'answer.choice_2'}",
        "'choice_2': 'red', 'colours': ['blue', 'red']",
        false
    )]
    [InlineData("'of': 'answer.colours', 'has_not_in_it': {'of': 'answer.choice_2'}", "'colours': ['blue', 'red']", false)]
    [InlineData("'of': 'category', 'is': {'of': 'answer.text'}", "'text': 'Trees'", true)]
    [InlineData("'of': 'category', 'is_not': {'of': 'answer.text'}", "'text': 'Trees'", false)]
    [InlineData("'of': 'category', 'is_not': {'of': 'answer.text'}", "'text': 'Pots'", true)]
    [InlineData("'of': 'category', 'is_not': {'of': 'answer.text'}", "", false)]
    public void Two_facts_hold_against_each_other_or_not(string test, string answers, bool holds)
    {
        var line = Fixture.Line("TREE") with
        {
            Answers = AnswerSet.Of(
                JsonSerializer.Deserialize<Dictionary<string, AnswerValue>>($"{{{answers}}}".Replace('\'', '"'), DocumentJson.Options)!
            ),
        };
        var cart = Fixture.Of(line);
        cart = cart with { Answers = cart.Answers.With("order_text", AnswerValue.Of("a")) };
        Holds(Fixture.Condition("{" + test + "}"), cart).ShouldBe(holds);
    }

    [Theory]
    // condition, cart (products with quantities), group, country, whether it holds for the first line
    [InlineData("{'of': 'product', 'is': 'TREE'}", "TREE", "", "", true)]
    [InlineData("{'of': 'product', 'is_not_among': ['TREE', 'TALL']}", "TREE", "", "", false)]
    [InlineData("{'of': 'variant', 'is': 'POT-L'}", "POT/POT-L", "", "", true)]
    [InlineData("{'of': 'variant', 'is_not': 'POT-L'}", "TREE", "", "", false)] // no variant at all
    [InlineData("{'of': 'category', 'is': 'Trees'}", "TALL", "", "", true)]
    [InlineData("{'of': 'category', 'is': 'Labels'}", "LABEL", "", "", true)] // it stands in two, and any of them counts
    [InlineData("{'of': 'category', 'is': 'Presents'}", "LABEL", "", "", true)]
    [InlineData("{'of': 'category', 'is_not': 'Presents'}", "LABEL", "", "", false)]
    [InlineData("{'of': 'category', 'is_not': 'Trees'}", "LABEL", "", "", true)]
    [InlineData("{'of': 'category', 'is_among': ['Trees', 'Presents']}", "LABEL", "", "", true)]
    [InlineData("{'of': 'category', 'is_among': ['Trees', 'Walks']}", "LABEL", "", "", false)]
    [InlineData("{'of': 'category', 'is_not_among': ['Trees', 'Presents']}", "LABEL", "", "", false)]
    [InlineData("{'of': 'category', 'is_not_among': ['Trees', 'Walks']}", "LABEL", "", "", true)]
    [InlineData("{'of': 'category', 'was_given': true}", "LABEL", "", "", true)]
    [InlineData("{'of': 'tag', 'has_in_it': 'fruit'}", "TREE", "", "", true)]
    [InlineData("{'of': 'tag', 'has_not_in_it': 'fruit'}", "LABEL", "", "", false)] // no tags at all
    [InlineData("{'of': 'tag', 'was_not_given': true}", "LABEL", "", "", true)]
    [InlineData("{'of': 'attribute.height', 'over': 3}", "TALL", "", "", true)]
    [InlineData("{'of': 'attribute.height', 'over': 3}", "TREE", "", "", false)]
    [InlineData("{'of': 'attribute.height', 'over': 0.5}", "POT/POT-L", "", "", true)] // the variant's own
    [InlineData("{'of': 'attribute.height', 'under': 9}", "LABEL", "", "", false)] // a label has no height
    [InlineData("{'of': 'attribute.height', 'was_not_given': true}", "LABEL", "", "", true)]
    [InlineData("{'of': 'quantity', 'at_least': 3}", "TREE*3", "", "", true)]
    [InlineData("{'of': 'ships', 'is': false}", "WALK", "", "", true)]
    [InlineData("{'of': 'cart_total', 'over': 89.5}", "TREE", "", "", false)]
    [InlineData("{'of': 'cart_total', 'at_least': 89.5}", "TREE", "", "", true)]
    [InlineData("{'of': 'cart_total', 'is': 106.5}", "TREE LABEL", "", "", true)]
    [InlineData("{'of': 'cart_count', 'is': 5}", "TREE*3 LABEL*2", "", "", true)]
    [InlineData("{'of': 'group', 'is': 'trade'}", "TREE", "trade", "", true)]
    [InlineData("{'of': 'group', 'is_not': 'trade'}", "TREE", "", "", true)] // known from the start: household
    [InlineData("{'of': 'group', 'is': 'household'}", "TREE", "nonsense", "", true)]
    [InlineData("{'of': 'country', 'is': 'IE'}", "TREE", "", "DE", true)] // the delivery address says it better
    [InlineData("{'of': 'date', 'at_least': '2026-11-25'}", "TREE", "", "", true)]
    [InlineData("{'of': 'date', 'over': '2026-11-25'}", "TREE", "", "", false)]
    [InlineData("{'together': []}", "TREE", "", "", true)]
    [InlineData("{'either': []}", "TREE", "", "", false)]
    [InlineData("{'neither': []}", "TREE", "", "", true)]
    [InlineData("{'together': [{'of': 'quantity', 'is': 1}, {'of': 'product', 'is': 'TALL'}]}", "TREE", "", "", false)]
    [InlineData("{'either': [{'of': 'quantity', 'is': 1}, {'of': 'product', 'is': 'TALL'}]}", "TREE", "", "", true)]
    [InlineData("{'neither': [{'of': 'quantity', 'is': 2}, {'of': 'product', 'is': 'TALL'}]}", "TREE", "", "", true)]
    [InlineData("{'neither': [{'of': 'quantity', 'is': 1}]}", "TREE", "", "", false)]
    [InlineData("{'lines': 'any', 'where': {'of': 'product', 'is': 'TALL'}}", "TREE TALL", "", "", true)]
    [InlineData("{'lines': 'every', 'where': {'of': 'category', 'is': 'Trees'}}", "TREE TALL", "", "", true)]
    [InlineData("{'lines': 'every', 'where': {'of': 'category', 'is': 'Trees'}}", "TREE LABEL", "", "", false)]
    [InlineData("{'lines': 'none', 'where': {'of': 'category', 'is': 'Walks'}}", "TREE LABEL", "", "", true)]
    [InlineData("{'lines': 'count', 'at_least': 2, 'where': {'of': 'category', 'is': 'Trees'}}", "TREE TALL", "", "", true)]
    [InlineData("{'lines': 'count', 'over': 2}", "TREE TALL", "", "", false)]
    // One and the same line must be tall and many: the body binds one line.
    [InlineData(
        "{'lines': 'any', 'where': {'together': [{'of': 'product', 'is': 'TALL'}, {'of': 'quantity', 'over': 1}]}}",
        "TREE*2 TALL",
        "",
        "",
        false
    )]
    // Over nothing: a tree has no units.
    [InlineData("{'units': 'every', 'where': {'of': 'answer.unit_number', 'was_not_given': true}}", "TREE", "", "", false)]
    [InlineData("{'units': 'none', 'where': {'of': 'answer.unit_number', 'was_not_given': true}}", "TREE", "", "", true)]
    [InlineData("{'units': 'count', 'is': 3}", "WALK*3", "", "", true)]
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
    [InlineData("5 1 7", "'units': 'count', 'is': 2", true)]
    public void A_quantifier_tests_each_unit(string answers, string quantifier, bool holds)
    {
        var units = answers
            .Split(' ')
            .Select((a, i) => new CartUnit("u" + i, a == "-" ? AnswerSet.Empty : Fixture.Answers(("unit_number", a))));
        var cart = Fixture.Of(Fixture.Line("WALK", 3) with { Units = [.. units] });
        Holds(Fixture.Condition($"{{{quantifier}, 'where': {{'of': 'answer.unit_number', 'at_least': 5}}}}"), cart).ShouldBe(holds);
    }

    public static TheoryData<string, Level, string, string> Unbindable() =>
        new()
        {
            { "{'of': 'moon', 'is': 'full'}", Level.Line, "product_page", "There is no fact “moon”. Choose another." },
            { "{'of': 'answer.nobody', 'was_given': true}", Level.Line, "product_page", "There is no field “nobody”. Choose another." },
            {
                "{'of': 'answer.text', 'over': 3}",
                Level.Line,
                "product_page",
                "“answer.text” cannot be compared with “is over”. Choose another comparison."
            },
            { "{'of': 'answer.number', 'over': 'three'}", Level.Line, "product_page", "Say with which number it is compared." },
            { "{'of': 'answer.text', 'is': null}", Level.Line, "product_page", "Say what it is compared with." },
            { "{'of': 'group', 'is_among': []}", Level.Line, "product_page", "Say what it is compared with: choose from the list." },
            { "{'of': 'date', 'is': 'Christmas'}", Level.Line, "product_page", "Give the day as 2027-03-31." },
            {
                "{'of': 'answer.text', 'was_given': true}",
                Level.Order,
                "cart",
                "“The text” belongs to one line. Say over which lines it is tested: any, every, none, or how many."
            },
            {
                "{'of': 'product', 'is': 'TREE'}",
                Level.Order,
                "cart",
                "The product belongs to one line. Say over which lines it is tested: any, every, none, or how many."
            },
            {
                "{'of': 'answer.unit_number', 'was_given': true}",
                Level.Line,
                "product_page",
                "“The unit_number” is answered for each one of a line. Say over which units it is tested: any, every, none, or how many."
            },
            {
                "{'of': 'answer.delivery_method', 'is': 'sent'}",
                Level.Line,
                "product_page",
                "“How it reaches you” is asked only later. Ask this at that step or after it."
            },
            {
                "{'of': 'cart_total', 'over': 1}",
                Level.Line,
                "product_page",
                "The cart’s total is known only later. Ask this at that step or after it."
            },
            {
                "{'lines': 'any', 'where': {'of': 'ships', 'is': true}}",
                Level.Line,
                "product_page",
                "Which lines there are is known from the cart on. Ask it in the cart or later."
            },
            {
                "{'lines': 'any', 'where': {'of': 'answer.delivery_method', 'is': 'sent'}}",
                Level.Order,
                "cart",
                "“How it reaches you” is asked only later. Ask this at that step or after it."
            },
            {
                "{'of': 'answer.number', 'over': {'of': 'answer.text'}}",
                Level.Line,
                "product_page",
                "“answer.number” and “answer.text” cannot be compared with “is over”. Choose another comparison, or an answer of the same kind."
            },
            {
                "{'of': 'answer.text', 'is_among': {'of': 'answer.text_2'}}",
                Level.Line,
                "product_page",
                "“answer.text” and “answer.text_2” cannot be compared with “is among”. Choose another comparison, or an answer of the same kind."
            },
            {
                "{'of': 'answer.metres', 'over': {'of': 'answer.centimetres'}}",
                Level.Line,
                "product_page",
                "The one is in m and the other in cm. Compare what is in the same unit."
            },
            {
                "{'of': 'answer.order_text', 'is': {'of': 'answer.text'}}",
                Level.Order,
                "cart",
                "“The text” belongs to one line. Say over which lines it is tested: any, every, none, or how many."
            },
            {
                "{'of': 'answer.choice', 'is': {'of': 'answer.delivery_method'}}",
                Level.Line,
                "product_page",
                "“How it reaches you” is asked only later. Ask this at that step or after it."
            },
            {
                "{'of': 'category', 'is_among': {'of': 'answer.colours'}}",
                Level.Line,
                "product_page",
                "“category” and “answer.colours” cannot be compared with “is among”. Choose another comparison, or an answer of the same kind."
            },
            {
                "{'of': 'answer.text', 'is': {'of': 'category'}}",
                Level.Line,
                "product_page",
                "“answer.text” and “category” cannot be compared with “is”. Choose another comparison, or an answer of the same kind."
            },
            { "{'of': 'attribute.', 'is': 1}", Level.Line, "product_page", "There is no fact “attribute.”. Choose another." },
            {
                "{'units': 'any', 'where': {'of': 'cart_total', 'over': 1}}",
                Level.Line,
                "product_page",
                "The cart’s total is known only later. Ask this at that step or after it."
            },
        };

    [Theory]
    [MemberData(nameof(Unbindable))]
    public void What_cannot_be_bound_is_refused_with_the_remedy(string condition, Level level, string step, string sentence)
    {
        var target = Fixture.Ask("target", "line_text") with { Level = level, Step = step, When = Fixture.Condition(condition) };
        var compiled = RegisterPlan.Compile(Fixture.Register([.. Fields, target]), FieldTypes.Standard, TestKind.All);
        compiled.Problems.Single().ShouldBe(new CompileProblem("target", "when", sentence));
        compiled.Plan.Find("target").ShouldBeNull();
    }

    [Fact]
    public void Circles_are_named_and_all_in_them_left_out()
    {
        Field Waits(string key, string on) =>
            Fixture.Ask(key, "line_text") with
            {
                When = Fixture.Condition($"{{'of': 'answer.{on}', 'was_given': true}}"),
            };
        var compiled = RegisterPlan.Compile(
            Fixture.Register(Waits("a", "b"), Waits("b", "c"), Waits("c", "a"), Waits("d", "a"), Fixture.Ask("e", "line_text")),
            FieldTypes.Standard,
            TestKind.All
        );
        compiled.Problems.Select(p => p.Field).Order(StringComparer.Ordinal).ShouldBe(["a", "b", "c"]);
        compiled
            .Problems[0]
            .Sentence.ShouldBe("“The a” waits for “The b” waits for “The c” waits for “The a”. Take one of these conditions away.");
        compiled.Plan.LineFields.Select(f => f.Field.Key).ShouldBe(["e"]);
    }

    [Theory]
    [InlineData("{'of': 'attribute.height', 'over': 3}", "the height is over 3 m")]
    [InlineData("{'of': 'group', 'is_not': 'trade'}", "the shopper group is not trade")]
    [InlineData("{'of': 'tag', 'has_in_it': 'fruit'}", "the product is tagged “fruit”")]
    [InlineData("{'of': 'ships', 'is': false}", "the product is not sent")]
    [InlineData("{'of': 'cart_total', 'at_least': 50}", "the cart’s total is at least €\u00a050.00")]
    [InlineData("{'of': 'country', 'is_among': ['IE', 'GB']}", "the country is among Ireland or United Kingdom")]
    [InlineData("{'of': 'product', 'is': 'TALL'}", "the product is “Hornbeam”")]
    [InlineData("{'of': 'answer.choice', 'is': 'red'}", "“The choice” is “A red”")]
    [InlineData("{'of': 'answer.day', 'over': '2027-03-01'}", "“The day” is after 2027-03-01")]
    [InlineData("{'of': 'answer.truth', 'is': true}", "“The truth” is yes")]
    [InlineData("{'of': 'answer.text', 'was_not_given': true}", "“The text” was not given")]
    [InlineData(
        "{'either': [{'together': [{'of': 'attribute.height', 'over': 3}, {'of': 'group', 'is_not': 'trade'}]}, {'of': 'quantity', 'under': 2}]}",
        "the height is over 3 m and the shopper group is not trade, or the quantity is under 2"
    )]
    [InlineData(
        "{'neither': [{'of': 'quantity', 'is': 1}, {'of': 'quantity', 'is': 2}]}",
        "it is not so that the quantity is 1 or the quantity is 2"
    )]
    [InlineData("{'lines': 'any', 'where': {'of': 'category', 'is': 'Trees'}}", "there is a line of which the category is Trees")]
    [InlineData("{'units': 'count', 'over': 2}", "the number of units is over 2")]
    [InlineData("{'of': 'answer.text_2', 'is_not': {'of': 'answer.text'}}", "“The text_2” is not “The text”")]
    [InlineData("{'of': 'answer.day', 'at_most': {'of': 'date'}}", "“The day” is on or before today")]
    [InlineData("{'of': 'answer.gone', 'was_given': true}", "“gone” was given")]
    public void A_condition_is_one_plain_sentence(string condition, string sentence) =>
        Fixture.Words(Fixture.Register(Fields)).Sentence(Fixture.Condition(condition)).ShouldBe(sentence);

    [Fact]
    public void Each_test_says_whether_it_holds_and_what_it_saw()
    {
        const string Json =
            "{'either': [{'together': [{'of': 'attribute.height', 'over': 3}, {'of': 'group', 'is_not': 'trade'}]}, {'of': 'answer.number', 'under': 120}, {'lines': 'count', 'over': 1}]}";
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
    // what is in the cart, what is tested of its lines, what each test saw and whether it holds of all
    [InlineData("TALL", "{'of': 'attribute.height', 'over': 3}", "it is 3.5 m, holds")]
    [InlineData("LABEL", "{'of': 'category', 'is': 'Presents'}", "it is Labels, Presents, holds")]
    [InlineData("TALL TALL", "{'of': 'attribute.height', 'over': 3}", "of each it is 3.5 m, holds")]
    [InlineData("TALL WALK TALL", "{'of': 'attribute.height', 'over': 3}", "of 2 it is 3.5 m; of 1 not there")]
    [InlineData(
        "TALL WALK",
        "{'together': [{'of': 'attribute.height', 'over': 3}, {'of': 'group', 'is': 'trade'}]}",
        "of 1 it is 3.5 m; of 1 not there | of each it is trade, holds"
    )]
    [InlineData("", "{'of': 'attribute.height', 'over': 3}", "")]
    public void Each_test_of_lines_says_what_it_saw_of_them(string products, string where, string saw)
    {
        var condition = Fixture.Condition($"{{'lines': 'any', 'where': {where}}}");
        var plan = Fixture.Plan([.. Fields, Target(condition, Step.Cart.Key)]);
        var cart = Fixture.Of([.. products.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(p => Fixture.Line(p))]);
        var evaluation = Fixture.Evaluate(plan, cart with { Group = "trade" });
        var explained = new ConditionExplainer(evaluation.Facts, Fixture.Words(plan.Content)).Explain(
            condition,
            plan.Find("target")!.When!,
            Place.Order
        );
        string.Join(" | ", explained.Parts.Select(static p => p.Saw + (p.Holds ? ", holds" : ""))).ShouldBe(saw);
    }

    [Fact]
    public void A_line_without_units_says_nothing_of_what_is_tested_of_them()
    {
        var condition = Fixture.Condition(
            "{'lines': 'any', 'where': {'units': 'any', 'where': {'of': 'answer.badge', 'was_given': true}}}"
        );
        var plan = Fixture.Plan([.. Fields, Fixture.AskUnit("badge", "line_text"), Target(condition, Step.Cart.Key)]);
        var walk = Fixture.Line("WALK", 2) with { Units = [new("a", Fixture.Answers(("badge", "Zoë"))), new("b", AnswerSet.Empty)] };
        foreach (var cart in new[] { Fixture.Of(Fixture.Line("TREE"), walk), Fixture.Of(walk, Fixture.Line("TREE")) })
        {
            var evaluation = Fixture.Evaluate(plan, cart);
            var explained = new ConditionExplainer(evaluation.Facts, Fixture.Words(plan.Content)).Explain(
                condition,
                plan.Find("target")!.When!,
                Place.Order
            );
            explained.Holds.ShouldBeTrue();
            explained.Parts.Single().Parts.Single().Saw.ShouldBe("of 1 it is “Zoë”; of 1 not answered yet");
        }
    }

    [Fact]
    public void A_test_of_two_facts_shows_both_and_a_reason_covers_what_is_sensitive()
    {
        var condition = Fixture.Condition("{'of': 'answer.text_2', 'is_not': {'of': 'answer.text'}}");
        Field[] fields = [.. Fields.Select(f => f.Key == "text" ? f with { Sensitive = true } : f), Target(condition, Step.Cart.Key)];
        var plan = Fixture.Plan(fields);
        var evaluation = Fixture.Evaluate(plan, Fixture.Of(Fixture.Line("TREE", 1, ("text", "Bo"), ("text_2", "Bo"))));
        var (target, at) = (plan.Find("target")!, new Place(0, -1));
        var explainer = new ConditionExplainer(evaluation.Facts, Fixture.Words(plan.Content));
        explainer.Explain(condition, target.When!, at).Saw.ShouldBe("it is “Bo”, and “The text” is “Bo”");
        explainer.Reasons(condition, target.When!, at).ShouldBe(["“The text_2” is “Bo” and “The text” is answered, and covered"]);
    }

    [Theory]
    [InlineData(
        "{'together': [{'of': 'attribute.height', 'over': 3}, {'neither': [{'lines': 'any', 'where': {'of': 'ships', 'is': true}}]}]}"
    )]
    [InlineData("{'of': 'answer.x', 'is_not': {'of': 'attribute.height'}}")]
    [InlineData("{'units': 'count', 'at_most': 2, 'where': {'of': 'answer.x', 'is_among': ['a', 'b']}}")]
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
    [InlineData("{'of': 3, 'is': 'a'}")]
    [InlineData("{'of': 'quantity', 'resembles': 1}")]
    [InlineData("{'of': 'quantity', 'is': 1, 'over': 0}")]
    [InlineData("{'of': 'quantity', 'was_given': 1}")]
    [InlineData("{'of': 'quantity', 'was_given': false}")]
    [InlineData("{'of': 'quantity'}")]
    [InlineData("{'of': 'quantity', 'is': {}}")]
    [InlineData("{'of': 'quantity', 'is': {'of': 3}}")]
    [InlineData("{'of': 'quantity', 'is': {'of': 'cart_count', 'more': 1}}")]
    [InlineData("{'lines': 'count'}")]
    [InlineData("{'lines': 'most'}")]
    [InlineData("{'lines': 'count', 'over': 1.5}")]
    [InlineData("{'together': {'of': 'quantity', 'was_given': true}}")]
    [InlineData(
        "{'together': [{'together': [{'together': [{'together': [{'together': [{'together': [{'together': [{'together': [{'together': [{'together': [{'together': [{'together': [{'together': []}]}]}]}]}]}]}]}]}]}]}]}]}"
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
