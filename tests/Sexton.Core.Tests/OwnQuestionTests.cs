using System.Text.Json;
using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Register;
using Sexton.Core.Register.Edits;
using Sexton.Core.Register.Settings;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>What the shop may do with its own questions, and what an order cannot do without.</summary>
public sealed class OwnQuestionTests
{
    private static readonly Section Always = Fixture.Section("you") with { Step = "contact" };

    private static readonly Section Opened = Always with { Opening = LanguageMap.Of("For an organisation?") };

    [Theory]
    // the question, its step, what is wrong with that; "" for nothing
    [InlineData("name", "cart", "")]
    [InlineData("name", "payment", "")]
    [InlineData("name", "wishes", "")]
    [InlineData("name", "product_page", "“Your name” is about the whole order, and not about one product. Ask it in the cart or later.")]
    [InlineData("email", "delivery", "")]
    [InlineData("delivery_method", "cart", "")]
    [InlineData(
        "delivery_method",
        "payment",
        "Payment needs “How it reaches you” before it: what is paid depends on where the goods go. Ask it at an earlier step."
    )]
    [InlineData("delivery_address", "wishes", "")]
    [InlineData(
        "delivery_address",
        "payment",
        "Payment needs “Delivery address” before it: what is paid depends on where the goods go. Ask it at an earlier step."
    )]
    [InlineData("payment_method", "delivery", "Payment needs “How you pay”: the order is paid there. Ask it at payment.")]
    [InlineData("invoice_address", "payment", "")]
    public void A_question_moves_to_another_step_where_the_order_allows(string key, string step, string wrong)
    {
        var register = With(key, "step", step) with { Steps = [new CustomStep("wishes", LanguageMap.Of("Your wishes"), "delivery")] };
        Problems(register)
            .Where(p => p.Setting is "step" or "section")
            .Select(static p => p.Sentence)
            .ShouldBe(wrong.Length == 0 ? [] : [wrong]);
    }

    [Theory]
    // the question, whether its section has an opening question, whether that is a problem
    [InlineData("name", false, false)]
    [InlineData("name", true, true)]
    [InlineData("telephone", true, false)]
    [InlineData("delivery_address", true, true)]
    public void A_question_stands_in_a_section_that_is_asked_as_often_as_it_must_be(string key, bool opened, bool isProblem)
    {
        var register = With(key, "section", "you") with { Sections = [opened ? Opened : Always] };
        var problems = Problems(register).Where(static p => p.Setting == "section").ToList();
        problems.Select(static p => p.Field).ShouldBe(isProblem ? [key] : []);
        problems.ShouldAllBe(static p => p.Sentence.StartsWith("No order can do without", StringComparison.Ordinal));
    }

    [Fact]
    public void A_section_moved_to_payment_takes_no_delivery_with_it()
    {
        var register = With("delivery_method", "section", "you") with { Sections = [Always with { Step = "payment" }] };
        Problems(register).ShouldContain(static p => p.Field == "delivery_method" && p.Setting == "section");
    }

    [Theory]
    // the question, what is changed, whether it can be
    [InlineData("telephone", "switched_off", "true", true)]
    [InlineData("invoice_to", "switched_off", "true", true)]
    [InlineData("invoice_address", "when", "{'of': 'group', 'is': 'trade'}", true)]
    [InlineData("telephone", "asked_of", "{'all': true, 'groups': ['trade']}", true)]
    [InlineData("email", "switched_off", "true", false)]
    [InlineData("delivery_address", "when", "null", false)]
    [InlineData("telephone", "retired", "true", false)]
    [InlineData("telephone", "level", "'line'", false)]
    [InlineData(
        "payment_method",
        "settings.choices",
        "[{'key': 'on_account', 'label': {'en': 'By invoice'}}, {'key': 'card', 'label': {'en': 'By card'}}]",
        true
    )]
    [InlineData("payment_method", "settings.choices", "[{'key': 'card', 'label': {'en': 'By card'}}]", false)]
    [InlineData("payment_method", "settings.choices", "[{'key': 'card'}, {'key': 'cash'}]", false)]
    [InlineData("payment_method", "settings.choices", "[1, 2]", false)]
    public void What_an_order_can_do_without_is_the_shops_to_change(string key, string setting, string json, bool can)
    {
        void Change() => With(key, setting, JsonSerializer.Deserialize<JsonElement>(json.Replace('\'', '"')));
        if (can)
        {
            Should.NotThrow(Change);
        }
        else
        {
            Should.Throw<DraftEditException>(Change).Message.ShouldContain("is a question of the shop’s own");
        }
    }

    [Theory]
    // where it stands, its own step, what is wrong; "" for nothing
    [InlineData("delivery_address.street", "delivery", "")]
    [InlineData("delivery_address.country", "delivery", "")]
    [InlineData("delivery_address.street", "cart", "“Delivery address” is asked elsewhere.")]
    [InlineData("name.street", "contact", "There is no address “name”.")]
    [InlineData("gone.street", "delivery", "There is no address “gone”.")]
    public void A_field_stands_between_the_parts_of_an_address_that_is_asked_with_it(string place, string step, string wrong)
    {
        var floor = Fixture.AskOrder("floor", "line_text") with { Step = step, StandsAfter = place };
        var problems = Problems(Fixture.Register(floor)).Select(static p => p.Sentence).ToList();
        problems.Count.ShouldBe(wrong.Length == 0 ? 0 : 1);
        problems.ShouldAllBe(p => p.StartsWith(wrong, StringComparison.Ordinal));
    }

    [Theory]
    [InlineData("'delivery_address.street'", true)]
    [InlineData("null", true)]
    [InlineData("'delivery_address.lane'", false)]
    [InlineData("'delivery_address'", false)]
    [InlineData("'a.street.b'", false)]
    [InlineData("5", false)]
    public void A_place_in_an_address_is_one_of_its_parts(string json, bool can)
    {
        var value = JsonSerializer.Deserialize<JsonElement>(json.Replace('\'', '"'));
        var floor = Fixture.AskOrder("floor", "line_text");
        if (can)
        {
            FieldSettings.Apply(floor, "stands_after", value, Fixture.Destinations).StandsAfter.ShouldBe(value.GetString());
        }
        else
        {
            Should.Throw<DraftEditException>(() => FieldSettings.Apply(floor, "stands_after", value, Fixture.Destinations));
        }
    }

    [Fact]
    public void Where_it_stands_is_told_in_words()
    {
        var floor = Fixture.AskOrder("floor", "line_text") with { Step = "delivery" };
        RegisterDifference
            .Between(
                Fixture.Register(floor),
                Fixture.Register(floor with { StandsAfter = "delivery_address.street" }),
                FieldTypes.Standard,
                TestKind.All,
                Fixture.Products
            )
            .Single()
            .Clauses.ShouldBe([new("stands after ", "", "the street of “Delivery address”", "")]);
    }

    [Theory]
    // how it reaches them, where the invoice goes, what is asked at payment
    [InlineData(null, null, "invoice_to payment_method")]
    [InlineData("sent", "same", "invoice_to payment_method")]
    [InlineData("sent", "other", "invoice_to invoice_address payment_method")]
    [InlineData("fetched", "other", "payment_method")] // what is no longer asked asks for nothing
    public void The_invoice_goes_where_the_goods_go_unless_it_is_told_otherwise(string? method, string? invoice, string asked)
    {
        var answers = Fixture.Shopper;
        foreach (var (key, value) in new[] { ("delivery_method", method), ("invoice_to", invoice) })
        {
            answers = value is null ? answers : answers.With(key, AnswerValue.Of(value));
        }

        var evaluation = Fixture.Evaluate(Fixture.Plan(), Fixture.Of(Fixture.Line("TREE")) with { Answers = answers });
        string.Join(' ', evaluation.Asked.Where(static a => a.Field.Field.Step == Step.Payment.Key).Select(static a => a.Field.Key))
            .ShouldBe(asked);
        evaluation
            .Problems.Select(static p => p.Field!.Key)
            .ShouldBe(asked.Contains("invoice_address", StringComparison.Ordinal) ? ["invoice_address"] : []);
    }

    [Fact]
    public void The_country_of_an_invoice_address_is_not_that_of_the_goods()
    {
        var abroad = new Dictionary<string, string>(StringComparer.Ordinal)
        {
            ["street"] = "Am Wall 1",
            ["postcode"] = "28195",
            ["town"] = "Bremen",
            ["country"] = "DE",
        };
        var answers = Fixture.Shopper.With("invoice_to", AnswerValue.Of("other")).With("invoice_address", AnswerValue.Of(abroad));
        var evaluation = Fixture.Evaluate(Fixture.Plan(), Fixture.Of(Fixture.Line("TREE")) with { Answers = answers });
        evaluation.Problems.ShouldBeEmpty();
        evaluation.Facts.Country.ShouldBe("IE");
    }

    private static RegisterContent With(string key, string setting, object value)
    {
        var register = Fixture.Register();
        var field = register.Find(key)!;
        var json = value as JsonElement? ?? JsonSerializer.SerializeToElement(value);
        return register with { Fields = register.Fields.Replace(field, FieldSettings.Apply(field, setting, json, Fixture.Destinations)) };
    }

    private static IEnumerable<CompileProblem> Problems(RegisterContent register) =>
        RegisterPlan.Compile(register, FieldTypes.Standard, TestKind.All).Problems;
}
