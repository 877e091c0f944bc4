using System.Text.Json;
using Sexton.Core.Cart;
using Sexton.Core.Plan;
using Sexton.Core.Register;
using Sexton.Core.Types;

namespace Sexton.Core.Tests;

/// <summary>Answers that are worked out: each row, what happens where something is missing, and that they are answers like any other.</summary>
public sealed class WorkingTests
{
    // The answers that the cases read: 2.5 metres, 7 posts, words of two words, a day 10 days from today; nothing for the others.
    private static readonly Field[] Inputs =
    [
        Fixture.Ask("metres", "number", ("decimals", 2)),
        Fixture.Ask("posts", "number"),
        Fixture.Ask("words", "line_text"),
        Fixture.Ask("day", "date"),
        Fixture.Ask("empty", "number"),
        Fixture.Ask("silent", "line_text"),
        Fixture.Ask("bulbs", "how_many_of_each", ("choices", Fixture.Choices("tulip", "crocus"))),
        Fixture.Ask("face", "one_of", ("choices", Fixture.Choices("cast", "punched"))),
    ];

    [Theory]
    // rows, what comes out of them
    [InlineData("{'do':'take','of':{'value':7}}", "7")]
    [InlineData("{'do':'take','of':{'fact':'answer.metres'}}", "2.5")]
    [InlineData("{'do':'take','of':{'fact':'answer.metres'}},{'do':'times','of':{'fact':'answer.posts'}}", "17.5")]
    [InlineData("{'do':'take','of':{'fact':'answer.metres'}},{'do':'plus','of':{'value':0.05}},{'do':'minus','of':{'value':0.5}}", "2.05")]
    [InlineData("{'do':'take','of':{'value':10}},{'do':'divided_by','of':{'value':3}}", "3.3333")]
    [InlineData("{'do':'take','of':{'value':2}},{'do':'divided_by','of':{'value':3}}", "0.6667")]
    [InlineData("{'do':'take','of':{'value':10}},{'do':'divided_by','of':{'value':0}}", "")]
    [InlineData("{'do':'take','of':{'fact':'answer.metres'}},{'do':'times','of':{'fact':'attribute.height'}},{'do':'round_up'}", "7")]
    [InlineData("{'do':'take','of':{'value':6.01}},{'do':'round_up'}", "7")]
    [InlineData("{'do':'take','of':{'value':-6.01}},{'do':'round_up'}", "-6")]
    [InlineData("{'do':'take','of':{'value':6.99}},{'do':'round_down'}", "6")]
    [InlineData("{'do':'take','of':{'value':-6.01}},{'do':'round_down'}", "-7")]
    [InlineData("{'do':'take','of':{'value':6.5}},{'do':'round'}", "7")]
    [InlineData("{'do':'take','of':{'value':-6.5}},{'do':'round'}", "-7")]
    [InlineData("{'do':'take','of':{'value':13}},{'do':'round_up','to':5}", "15")]
    [InlineData("{'do':'take','of':{'value':1.13}},{'do':'round','to':0.25}", "1.25")]
    [InlineData("{'do':'take','of':{'fact':'answer.posts'}},{'do':'at_least','of':{'value':10}}", "10")]
    [InlineData("{'do':'take','of':{'fact':'answer.posts'}},{'do':'at_most','of':{'value':5}}", "5")]
    [InlineData("{'do':'take','of':{'fact':'answer.posts'}},{'do':'by_bands','bands':[{'over':0,'gives':12},{'over':7,'gives':20}]}", "12")]
    [InlineData("{'do':'take','of':{'value':7.01}},{'do':'by_bands','bands':[{'over':0,'gives':12},{'over':7,'gives':20}]}", "20")]
    [InlineData("{'do':'take','of':{'value':0}},{'do':'by_bands','bands':[{'over':0,'gives':12}]}", "")]
    [InlineData("{'do':'take','of':{'fact':'answer.empty'}}", "")]
    [InlineData("{'do':'take','of':{'value':3}},{'do':'times','of':{'fact':'answer.empty'}}", "")]
    [InlineData("{'do':'take','of':{'value':3}},{'do':'times','of':{'fact':'answer.empty','else':4}}", "12")]
    [InlineData("{'do':'take','of':{'fact':'answer.empty'}},{'do':'at_least','of':{'value':10}}", "")]
    [InlineData("{'do':'take','of':{'fact':'answer.words','length_by':'letter'}}", "6")]
    [InlineData("{'do':'take','of':{'fact':'answer.words','length_by':'character'}}", "7")]
    [InlineData("{'do':'take','of':{'fact':'answer.words','length_by':'word'}}", "2")]
    [InlineData("{'do':'take','of':{'fact':'date','days_to':'answer.day'}}", "10")]
    [InlineData("{'do':'take','of':{'fact':'answer.day','days_to':'date'}}", "-10")]
    [InlineData("{'do':'take','of':{'fact':'answer.bulbs'}}", "5")]
    [InlineData(
        "{'do':'take','of':{'fact':'quantity'}},{'do':'times','of':{'rows':[{'do':'take','of':{'value':1}},{'do':'plus','of':{'value':2}}]}}",
        "9"
    )]
    [InlineData("{'do':'take','of':{'value':900000000000000}},{'do':'times','of':{'value':2}}", "!worked_out_too_much")]
    [InlineData("{'do':'take','of':{'value':79228162514264337593543950335}},{'do':'times','of':{'value':2}}", "!worked_out_too_much")]
    public void A_number_is_worked_out_exactly(string rows, string expected) => Worked(rows, "number").ShouldBe(expected);

    [Theory]
    [InlineData(
        "{'do':'take','of':{'fact':'answer.words'}},{'do':'then','of':{'fact':'answer.face'},'between':', '}",
        "ab cdef, A punched"
    )]
    [InlineData("{'do':'take','of':{'fact':'answer.silent'}},{'do':'then','of':{'fact':'answer.words'},'between':', '}", "ab cdef")]
    [InlineData("{'do':'take','of':{'fact':'answer.words'}},{'do':'then','of':{'fact':'answer.silent'},'between':', '}", "ab cdef")]
    [InlineData("{'do':'take','of':{'fact':'answer.silent'}}", "")]
    [InlineData("{'do':'take','of':{'fact':'answer.silent','else':'nothing'}}", "nothing")]
    [InlineData("{'do':'take','of':{'fact':'answer.posts'}},{'do':'then','of':{'value':'posts'}}", "7 posts")]
    [InlineData("{'do':'take','of':{'fact':'product'}},{'do':'then','of':{'fact':'answer.metres'},'between':'-'}", "TREE-2.5")]
    public void A_text_is_joined(string rows, string expected) => Worked(rows, "text").ShouldBe(expected);

    [Theory]
    // of an order field: over the lines; the cart has 3 trees with 7 posts and a label without
    [InlineData("'over':'line','summary':'count'", "2")]
    [InlineData("'over':'line','summary':'sum','fact':'answer.posts'", "7")]
    [InlineData("'over':'line','summary':'sum','fact':'quantity'", "4")]
    [InlineData("'over':'line','summary':'greatest','fact':'quantity'", "3")]
    [InlineData("'over':'line','summary':'least','fact':'quantity'", "1")]
    [InlineData("'over':'line','summary':'count','where':{'of':'category', 'is': 'Trees'}", "1")]
    [InlineData("'over':'line','summary':'sum','fact':'quantity','where':{'of':'category', 'is': 'Walks'}", "")]
    public void Lines_are_counted_and_summed(string term, string expected)
    {
        var field = Fixture.AskOrder("out", "worked_out", ("working", Rows("{'do':'take','of':{" + term + "}}")));
        var evaluation = Fixture.Evaluate(Fixture.Of(Fixture.Line("TREE", 3, ("posts", 7)), Fixture.Line("LABEL")), [.. Inputs, field]);
        evaluation.Asked.Single(a => a.Field.Key == "out").TextIn("en").ShouldBe(expected);
    }

    [Fact]
    public void Units_of_the_line_are_summed()
    {
        var line = Fixture.Line("WALK", 2) with
        {
            Units = [new CartUnit("a", Fixture.Answers(("age", 7))), new CartUnit("b", Fixture.Answers(("age", 8)))],
        };
        var field = Fixture.Ask(
            "out",
            "worked_out",
            ("working", Rows("{'do':'take','of':{'over':'unit','summary':'sum','fact':'answer.age'}}"))
        );
        Fixture
            .Evaluate(Fixture.Of(line, line), Fixture.AskUnit("age", "number"), field)
            .Asked.Where(a => a.Field.Key == "out")
            .Select(a => a.TextIn("en"))
            .ShouldBe(["15", "15"]);
    }

    [Fact]
    public void It_is_an_answer_like_any_other()
    {
        // Five plants a metre; from ten on a note is asked; each plant costs 20; and a text says it all.
        var plants = Fixture.Ask(
            "plants",
            "worked_out",
            ("unit", "plants"),
            ("working", Rows("{'do':'take','of':{'fact':'answer.metres'}},{'do':'times','of':{'value':5}},{'do':'round_up'}"))
        ) with
        {
            Prices = [PricingTests.Price("{'kind':'per_unit','by':'count','tariff':{'minor':20}}")],
        };
        var note = Fixture.Ask("note", "line_text") with { When = Fixture.Condition("{'of':'answer.plants', 'at_least': 10}") };
        var evaluation = Fixture.Evaluate(Fixture.Of(Fixture.Line("TREE", 2, ("metres", 2.5m), ("plants", 999))), note, plants, Inputs[0]);
        evaluation
            .Asked.Where(a => a.LineId is not null)
            .Select(a => $"{a.Field.Key}={a.TextIn("en")}")
            .ShouldBe(["note=", "plants=13 plants", "metres=2.5"], "what was sent for it counts for nothing");
        PricingTests.Rows(evaluation).ShouldBe("Quince 2×8950=17900|The plants 2×260=520");
        Fixture.Order(evaluation).Answers.Single(a => a.Field == "plants").Text.ShouldBe("13 plants");
    }

    [Theory]
    // gives, rows, why it cannot be
    [InlineData("number", "", "It works nothing out yet")]
    [InlineData("number", "{'do':'plus','of':{'value':1}}", "The first row says what it begins with")]
    [InlineData("number", "{'do':'take','of':{'value':1}},{'do':'take','of':{'value':1}}", "The first row says what it begins with")]
    [InlineData("number", "{'do':'take'}", "Say with what a row works")]
    [InlineData("number", "{'do':'take','of':{}}", "Say with what a row works")]
    [InlineData("number", "{'do':'take','of':{'fact':'answer.words'}}", "It comes to a text")]
    [InlineData("text", "{'do':'take','of':{'value':1}}", "It comes to a number")]
    [InlineData("number", "{'do':'take','of':{'value':1}},{'do':'plus','of':{'fact':'answer.words'}}", "one of them is a text")]
    [InlineData("text", "{'do':'take','of':{'fact':'answer.words'}},{'do':'plus','of':{'value':1}}", "only be joined")]
    [InlineData("number", "{'do':'take','of':{'value':1}},{'do':'round_up','to':0}", "above 0")]
    [InlineData("number", "{'do':'take','of':{'value':1}},{'do':'by_bands'}", "A table has bands")]
    [InlineData("number", "{'do':'take','of':{'fact':'answer.gone'}}", "There is no field “gone”")]
    [InlineData("number", "{'do':'take','of':{'fact':'cart_total'}}", "known only later")]
    [InlineData("number", "{'do':'take','of':{'over':'line','summary':'count'}}", "over the units of the line")]
    [InlineData("number", "{'do':'take','of':{'fact':'answer.empty','else':'x'}}", "only a number can stand in")]
    [InlineData("number", "{'do':'take','of':{'fact':'answer.words','days_to':'date'}}", "from one day to another")]
    public void What_cannot_be_worked_out_is_named(string gives, string rows, string why)
    {
        var field = Fixture.Ask("out", "worked_out", ("gives", gives), ("working", Rows(rows)));
        var problem = RegisterPlan.Compile(Fixture.Register([.. Inputs, field]), FieldTypes.Standard, TestKind.All).Problems.First();
        (problem.Field, problem.Setting).ShouldBe(("out", "settings.working"));
        problem.Sentence.ShouldContain(why);
    }

    [Fact]
    public void Two_that_wait_for_each_other_are_a_circle()
    {
        Field Out(string key, string other) =>
            Fixture.Ask(key, "worked_out", ("working", Rows($"{{'do':'take','of':{{'fact':'answer.{other}'}}}}")));
        RegisterPlan
            .Compile(Fixture.Register(Out("one", "two"), Out("two", "one")), FieldTypes.Standard, TestKind.All)
            .Problems.ShouldAllBe(p => p.Sentence.Contains("waits for"));
    }

    private static string Worked(string rows, string gives)
    {
        var field = Fixture.Ask("out", "worked_out", ("gives", gives), ("decimals", 4), ("working", Rows(rows)));
        var bulbs = new Dictionary<string, string>(StringComparer.Ordinal) { ["tulip"] = "3", ["crocus"] = "2" };
        var day = Fixture.Today.AddDays(10).ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
        var evaluation = Fixture.Evaluate(
            Fixture.Of(
                Fixture.Line(
                    "TREE",
                    3,
                    ("metres", 2.5m),
                    ("posts", 7),
                    ("words", "ab cdef"),
                    ("day", day),
                    ("bulbs", bulbs),
                    ("face", "punched")
                )
            ),
            [.. Inputs, field]
        );
        var asked = evaluation.Asked.Single(a => a.Field.Key == "out");
        return evaluation.Problems.Count > 0 ? "!" + evaluation.Problems.Single().Refusal.Key : asked.TextIn("en");
    }

    private static JsonElement Rows(string rows) => JsonSerializer.Deserialize<JsonElement>($"[{rows.Replace('\'', '"')}]");
}
