using System.Text.Json;
using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Plan;
using Sexton.Core.Register;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>Fields that are refused when: what their rules see, what becomes of what they refuse, and which rules cannot be.</summary>
public sealed class RefusedByRuleTests
{
    private static readonly Field First = Fixture.Ask("first", "email");

    private static readonly Field Second = Fixture.Ask("second", "email") with
    {
        RefusedWhen = Fixture.Condition("{'of': 'answer.second', 'is_not': {'of': 'answer.first'}}"),
        RefusedSaying = LanguageMap.Of("That is not the address above.").With("de", "Das ist nicht die Adresse von oben."),
    };

    private static readonly Field After = Fixture.Ask("after", "line_text") with
    {
        When = Fixture.Condition("{'of': 'answer.second', 'was_given': true}"),
    };

    [Theory]
    // first, second ("" for nothing), the language, what is said
    [InlineData("a@b.example", "a@b.example", "en", "")]
    [InlineData("a@b.example", "b@b.example", "en", "That is not the address above.")]
    [InlineData("a@b.example", "b@b.example", "de", "Das ist nicht die Adresse von oben.")]
    [InlineData("", "b@b.example", "en", "")] // the later one first: nothing to hold it against yet
    [InlineData("a@b.example", "", "en", "")] // an empty answer is not refused
    public void An_answer_is_held_against_another(string first, string second, string language, string said)
    {
        var evaluation = Of([First, Second, After], ("first", first), ("second", second));
        evaluation.Problems.Select(p => p.SentenceIn(Wording.Usual, language)).ShouldBe(said.Length == 0 ? [] : [said]);
        evaluation.Problems.ShouldAllBe(p => p.Field!.Key == "second" && p.Refusal.Key == RefusalKeys.RefusedByRule);
    }

    [Theory]
    [InlineData(true, false)]
    [InlineData(false, true)]
    public void Where_the_other_is_no_longer_asked_nothing_is_held_against_it(bool off, bool retired)
    {
        Field[] fields = [First with { SwitchedOff = off, Retired = retired }, Second, After];
        var evaluation = Of(fields, ("first", "a@b.example"), ("second", "b@b.example"));
        evaluation.Problems.ShouldBeEmpty();
        evaluation.Asked.ShouldContain(static a => a.Field.Key == "after");
    }

    [Fact]
    public void What_is_refused_is_no_answer_for_anything_else()
    {
        Of([First, Second, After], ("first", "a@b.example"), ("second", "b@b.example")).Asked.ShouldNotContain(a => a.Field.Key == "after");
        Of([First, Second, After], ("first", "a@b.example"), ("second", "a@b.example")).Asked.ShouldContain(a => a.Field.Key == "after");
    }

    [Fact]
    public void A_rule_may_read_the_answer_alone_and_a_plain_sentence_is_said_where_none_is_given()
    {
        var field = Fixture.Ask("width", "number") with
        {
            RefusedWhen = Fixture.Condition("{'together': [{'of': 'answer.width', 'under': 3}, {'of': 'product', 'is': 'TREE'}]}"),
        };
        Of([field], ("width", 3)).Problems.ShouldBeEmpty();
        Fixture
            .Sentences(Of([field], ("width", 2)))
            .ShouldBe(["“The width” does not go with your other answers. Please change it, or them."]);
    }

    [Theory]
    // the limit of the line, the numbers of three seats ("-" for none), which seats are refused
    [InlineData("5", "5 6 7", "u1 u2")]
    [InlineData("9", "5 6 7", "")]
    [InlineData("", "5 6 7", "")]
    [InlineData("5", "- - 9", "u2")]
    public void Each_one_of_a_line_is_judged_by_itself(string limit, string seats, string refused)
    {
        Field[] fields =
        [
            Fixture.Ask("limit", "number"),
            Fixture.AskUnit("seat", "number") with
            {
                RefusedWhen = Fixture.Condition("{'of': 'answer.seat', 'over': {'of': 'answer.limit'}}"),
            },
        ];
        var units = seats.Split(' ').Select((n, i) => new CartUnit("u" + i, n == "-" ? AnswerSet.Empty : Fixture.Answers(("seat", n))));
        var line = Fixture.Line("WALK", 3, limit.Length == 0 ? [] : [("limit", limit)]) with { Units = [.. units] };
        Fixture
            .Evaluate(Fixture.Plan(fields), Fixture.Of(line))
            .Problems.Select(p => p.UnitId)
            .ShouldBe(refused.Split(' ', StringSplitOptions.RemoveEmptyEntries));
    }

    [Fact]
    public void What_is_worked_out_can_be_refused_too()
    {
        Field[] fields =
        [
            Fixture.Ask("a", "number"),
            Fixture.Ask(
                "twice",
                "worked_out",
                ("working", JsonSerializer.Deserialize<JsonElement>("""[{"do":"take","of":{"fact":"answer.a"}}]"""))
            ) with
            {
                RefusedWhen = Fixture.Condition("{'of': 'answer.twice', 'over': 10}"),
            },
        ];
        var compiled = RegisterPlan.Compile(Fixture.Register(fields), FieldTypes.Standard, TestKind.All);
        compiled.Problems.ShouldBeEmpty();
        Fixture.Evaluate(compiled.Plan, Cart(("a", 11))).Problems.Select(p => p.Field!.Key).ShouldBe(["twice"]);
        Fixture.Evaluate(compiled.Plan, Cart(("a", 10))).Problems.ShouldBeEmpty();
    }

    [Fact]
    public void The_preview_sees_what_the_rule_saw()
    {
        var plan = Fixture.Plan(First, Second);
        var evaluation = Fixture.Evaluate(plan, Cart(("first", "a@b.example"), ("second", "b@b.example")));
        var (field, at) = (plan.Find("second")!, new Facts.Place(0, -1));
        var explainer = new ConditionExplainer(evaluation.Facts, Fixture.Words(plan.Content));
        Explained? explained = null;
        evaluation.AsJudged(field, at, () => explained = explainer.Explain(field.Field.RefusedWhen!, field.RefusedWhen!, at));
        (explained!.Holds, explained.Saw).ShouldBe((true, "it is “b@b.example”, and “The first” is “a@b.example”"));
        evaluation.Facts.ValueOf(field, at).ShouldBeNull();
    }

    [Fact]
    public void Rules_that_wait_for_each_other_are_named_and_a_later_answer_is_refused()
    {
        Field Judged(string key, string by) =>
            Fixture.Ask(key, "number") with
            {
                RefusedWhen = Fixture.Condition($"{{'of': 'answer.{key}', 'over': {{'of': 'answer.{by}'}}}}"),
            };
        var circle = RegisterPlan.Compile(Fixture.Register(Judged("a", "b"), Judged("b", "a")), FieldTypes.Standard, TestKind.All);
        circle.Problems.Select(p => p.Field).Order(StringComparer.Ordinal).ShouldBe(["a", "b"]);
        circle.Problems[0].Sentence.ShouldBe("“The a” waits for “The b” waits for “The a”. Take one of these conditions away.");

        var early = RegisterPlan.Compile(
            Fixture.Register(Judged("a", "b"), Fixture.Ask("b", "number") with { Step = "cart" }),
            FieldTypes.Standard,
            TestKind.All
        );
        early
            .Problems.ShouldHaveSingleItem()
            .ShouldBe(new CompileProblem("a", "refused_when", "“The b” is asked only later. Ask this at that step or after it."));
    }

    private static CartContent Cart(params (string Key, object Value)[] answers) =>
        Fixture.Of(Fixture.Line("TREE", 1, [.. answers.Where(static a => a.Value is not "")]));

    private static Evaluation Of(Field[] fields, params (string Key, object Value)[] answers) =>
        Fixture.Evaluate(Fixture.Plan(fields), Cart(answers));
}
