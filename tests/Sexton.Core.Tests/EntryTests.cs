using System.Text.Json;
using Sexton.Core.Cart;
using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Register;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>What shoppers type at the edges: nothing that can be seen, amounts in their language, addresses that are no longer asked, too many at once.</summary>
public sealed class EntryTests
{
    [Theory]
    // a text of which nothing is to be seen, by its characters
    [InlineData("")]
    [InlineData("   ")]
    [InlineData("\u200b")]
    [InlineData("\u200d\ufe0f\u2060")]
    [InlineData("\u3164")]
    [InlineData(" \u00ad\t")]
    [InlineData("\ufeff")]
    public void Nothing_to_be_seen_fills_no_answer(string text)
    {
        var evaluation = Fixture.Evaluate(Fixture.Cart(text), Fixture.Wording());
        evaluation.Problems.Single(p => p.Field?.Key == "wording").Refusal.Key.ShouldBe("required");
    }

    /// <summary>Source: Unicode Character Database, DerivedCoreProperties.txt, Default_Ignorable_Code_Point; in Debian's package unicode-data.</summary>
    [Fact]
    public void What_is_shown_as_nothing_is_what_Unicode_says()
    {
        var ignorable = File.ReadLines("/usr/share/unicode/DerivedCoreProperties.txt")
            .Select(static line => line.Split('#')[0].Split(';', StringSplitOptions.TrimEntries))
            .Where(static parts => parts is [_, "Default_Ignorable_Code_Point"])
            .SelectMany(static parts =>
            {
                var ends = parts[0].Split("..").Select(static end => Convert.ToInt32(end, 16)).ToList();
                return Enumerable.Range(ends[0], ends[^1] - ends[0] + 1);
            })
            .ToHashSet();
        ignorable.Count.ShouldBeGreaterThan(4000);
        for (var value = 0; value <= 0x10FFFF; value++)
        {
            if (System.Text.Rune.IsValid(value) && !System.Text.Rune.IsWhiteSpace(new(value)))
            {
                CanonicalText.IsBlank(new System.Text.Rune(value).ToString()).ShouldBe(ignorable.Contains(value), $"U+{value:X4}");
            }
        }
    }

    [Theory]
    // the text as JSON, the code of the refusal ("" for none), the canonical text
    [InlineData("\"a\\ud800b\"", "not_text", "")]
    [InlineData("\"\\udc00\"", "not_text", "")]
    [InlineData("\"a\\u0000b\"", "not_text", "")]
    [InlineData("\"\\ud83c\\udf3f\"", "", "🌿")]
    [InlineData("\"a\\\\ud800\"", "", "a\\ud800")]
    [InlineData("\"one\\u2028two\"", "line_break", "")]
    public void Half_a_character_is_refused_by_its_field(string json, string code, string canonical)
    {
        var answer = JsonSerializer.Deserialize<AnswerValue>(json, DocumentJson.Options)!;
        var evaluation = Fixture.Evaluate(
            Fixture.Of(Fixture.Line("LABEL") with { Answers = AnswerSet.Of([new("wording", answer)]) }),
            Fixture.Wording()
        );
        (evaluation.Problems.FirstOrDefault().Refusal.Key ?? "").ShouldBe(code);
        evaluation.Asked.Single(a => a.Field.Key == "wording").TextIn("en").ShouldBe(canonical);
    }

    [Fact]
    public void The_separators_of_lines_and_paragraphs_are_line_ends() =>
        (CanonicalText.TryMake("a\u2028b\u2029c\r\nd", out var text) ? text : "").ShouldBe("a\nb\nc\nd");

    [Theory]
    // language, what is typed, what it comes to (as systems get it); "" for refused, and then what the sentence has in it
    [InlineData("en", "1,000", "EUR 1000.00", "")]
    [InlineData("en", "€ 1,000", "EUR 1000.00", "")]
    [InlineData("en", "1,234,567.5", "EUR 1234567.50", "")]
    [InlineData("en", "1.50", "EUR 1.50", "")]
    [InlineData("en", "1,5", "EUR 1.50", "")]
    [InlineData("en", "0.500", "EUR 0.50", "")]
    [InlineData("en", "1 000", "EUR 1000.00", "")]
    [InlineData("en", "1.000", "", "could be €\u00a01.00 or €\u00a01,000.00")]
    [InlineData("en", "1,00,0", "", "as an amount")]
    [InlineData("en", "1.000.000", "", "as an amount")]
    [InlineData("de", "1.000", "EUR 1000.00", "")]
    [InlineData("de", "1.234,5", "EUR 1234.50", "")]
    [InlineData("de", "1,5", "EUR 1.50", "")]
    [InlineData("de", "1.5", "EUR 1.50", "")]
    [InlineData("de", "1,000", "", "could be")]
    [InlineData("fr", "1\u202f000,50", "EUR 1000.50", "")]
    [InlineData("de-CH", "1’000.50", "EUR 1000.50", "")]
    [InlineData("en", "12", "EUR 12.00", "")]
    public void An_amount_is_read_as_its_language_writes_it(string language, string typed, string amount, string sentence)
    {
        var evaluation = Fixture.Evaluate(
            Fixture.Of(Fixture.Line("LABEL", 1, ("credit", typed))) with
            {
                Language = language,
            },
            Fixture.Ask("credit", "amount_of_money")
        );
        var asked = evaluation.Asked.Single(a => a.Field.Key == "credit");
        (asked.SystemTextIn(language) ?? "").ShouldBe(amount);
        (evaluation.Problems.Count == 0 ? "" : evaluation.Problems[0].SentenceIn(Wording.Usual, "en")).ShouldContain(sentence);
    }

    [Theory]
    [InlineData(0, "1.000", false)]
    [InlineData(0, "1,000", true)]
    [InlineData(3, "1.250", true)] // with three decimals it is what it looks like
    public void A_number_that_could_be_two_is_refused(int decimals, string typed, bool taken) =>
        (
            Fixture
                .Evaluate(Fixture.Of(Fixture.Line("LABEL", 1, ("length", typed))), Fixture.Ask("length", "number", ("decimals", decimals)))
                .Problems.Count == 0
        ).ShouldBe(taken);

    [Theory]
    // language, type, canonical answer, as people read it, as systems get it; dates and separators by Unicode CLDR
    [InlineData("en", "date", "2026-12-07", "7 December 2026", "2026-12-07")]
    [InlineData("de", "date", "2026-12-07", "7. Dezember 2026", "2026-12-07")]
    [InlineData("fr", "date", "2026-12-07", "7 décembre 2026", "2026-12-07")]
    [InlineData("en-US", "date", "2026-12-07", "December 7, 2026", "2026-12-07")]
    [InlineData("xx", "date", "2026-12-07", "7 December 2026", "2026-12-07")]
    [InlineData("en", "number", "1234.5", "1234.5 m", "1234.5 m")]
    [InlineData("de", "number", "1234,5", "1234,5 m", "1234.5 m")]
    [InlineData("de", "amount_of_money", "1234,5", "1.234,50\u00a0€", "EUR 1234.50")]
    public void Answers_are_written_for_people_and_plainly_for_systems(
        string language,
        string type,
        string answer,
        string people,
        string systems
    )
    {
        var settings = type == "number" ? new (string, object)[] { ("unit", "m"), ("decimals", 1) } : [];
        var asked = Fixture
            .Evaluate(Fixture.Of(Fixture.Line("LABEL", 1, ("it", answer))) with { Language = language }, Fixture.Ask("it", type, settings))
            .Asked.Single(a => a.Field.Key == "it");
        (asked.TextIn(language), asked.SystemTextIn(language) ?? asked.TextIn(language)).ShouldBe((people, systems));
    }

    [Fact]
    public void A_refused_day_is_named_as_people_write_it()
    {
        var day = Fixture.Ask("day", "date", ("earliest", new { day = "2027-03-01" }), ("weekdays_left_out", new[] { "sunday" }));
        string Said(string answer, string language) =>
            Fixture
                .Evaluate(Fixture.Of(Fixture.Line("LABEL", 1, ("day", answer))) with { Language = language }, day)
                .Problems.Single()
                .SentenceIn(Wording.Usual, "en");
        Said("2027-02-01", "en").ShouldBe("“The day” can be 1 March 2027 at the earliest.");
        Said("2027-02-01", "de").ShouldContain("1. März 2027");
        Said("2027-03-07", "en").ShouldBe("“The day” cannot be 7 March 2027, a Sunday. Choose another day.");
    }

    [Theory]
    // how it is delivered, the country of the address, the country that conditions see
    [InlineData("sent", "DE", "DE")]
    [InlineData("fetched", "DE", "IE")]
    [InlineData("fetched", "XX", "IE")]
    [InlineData("sent", "XX", "IE")]
    [InlineData("sent", "", "IE")]
    public void An_address_that_is_not_asked_decides_no_country(string delivery, string country, string seen)
    {
        var abroad = Fixture.AskOrder("customs", "line_text") with { When = Fixture.Condition("{'of':'country', 'is': 'DE'}") };
        var cart = Fixture.Of(Fixture.Line("LABEL"));
        cart = cart with
        {
            Answers = cart
                .Answers.With("delivery_method", AnswerValue.Of(delivery))
                .With(
                    "delivery_address",
                    AnswerValue.Of(
                        new Dictionary<string, string>(StringComparer.Ordinal) { ["street"] = "Am Wall 1", ["country"] = country }
                    )
                ),
        };
        var evaluation = Fixture.Evaluate(cart, abroad);
        evaluation.Facts.Country.ShouldBe(seen);
        evaluation.Asked.Any(a => a.Field.Key == "customs").ShouldBe(seen == "DE");
    }

    [Fact]
    public void What_reads_the_country_comes_after_the_address_wherever_it_stands()
    {
        var plan = Fixture.Plan(
            Fixture.Register() with
            {
                Fields =
                [
                    Fixture.Ask("duty", "line_text") with
                    {
                        When = Fixture.Condition("{'of':'country', 'is': 'DE'}"),
                    },
                    .. Fixture.BuiltIns,
                ],
            }
        );
        plan.InOrder.Select(f => f.Field.Key)
            .ToList()
            .IndexOf("duty")
            .ShouldBeGreaterThan(plan.InOrder.Select(f => f.Field.Key).ToList().IndexOf("delivery_address"));
    }

    [Fact]
    public void More_than_can_be_asked_each_is_a_problem_at_the_quantity_before_anything_is_typed()
    {
        var plan = Fixture.Plan(Fixture.AskUnit("badge", "line_text") with { Required = true });
        var cart = plan.WithUnits(Fixture.Products, Fixture.Of(Fixture.Line("WALK", 100)));
        var evaluation = Fixture.Evaluate(plan, cart);
        evaluation.Asked.ShouldNotContain(a => a.Field.Key == "badge");
        var problem = evaluation.Problems.Single();
        (problem.Refusal.Key, problem.LineId, problem.Field).ShouldBe(("too_many_each", "l1", null));
        problem.SentenceIn(Wording.Usual, "en").ShouldContain("60");
        Should.Throw<CartException>(() =>
            CartContent.Empty.Add(plan.WithUnits(Fixture.Products, Fixture.Line("WALK", 61)), static l => l.Answers)
        );

        // Sixty are asked each.
        Fixture
            .Evaluate(plan, plan.WithUnits(Fixture.Products, Fixture.Of(Fixture.Line("WALK", 60))))
            .Asked.Count(a => a.Field.Key == "badge")
            .ShouldBe(60);
    }

    [Theory]
    // type, default as written, answer, whether it is still as proposed
    [InlineData("telephone", "+353 1 234 5678", "+35312345678", true)]
    [InlineData("line_text", " your text ", "your text", true)]
    [InlineData("web_address", "example.org", "https://example.org", true)]
    [InlineData("telephone", "+353 1 234 5678", "+35312345679", false)]
    [InlineData("line_text", "your text", null, true)]
    public void Must_not_be_left_as_it_is_looks_at_what_the_answer_says(string type, string proposed, string? answer, bool left)
    {
        var field = Fixture.Ask("it", type) with { Default = AnswerValue.Of(proposed), DefaultMustChange = true };
        var evaluation = Fixture.Evaluate(Fixture.Of(Fixture.Line("LABEL", 1, answer is null ? [] : [("it", answer)])), field);
        evaluation.Problems.Select(p => p.Refusal.Key).ShouldBe(left ? ["left_as_proposed"] : []);
    }

    [Fact]
    public void Required_under_a_condition_is_required_also_while_the_answer_is_refused()
    {
        var field = Fixture.Ask("it", "line_text", ("longest", 3)) with
        {
            RequiredWhen = Fixture.Condition("{'of':'quantity', 'over': 0}"),
        };
        Fixture
            .Evaluate(Fixture.Of(Fixture.Line("LABEL", 1, ("it", "four"))), field)
            .Asked.Single(a => a.Field.Key == "it")
            .Required.ShouldBeTrue();
    }

    [Fact]
    public void A_label_with_a_slot_in_it_is_not_filled_in() =>
        ShopperMessages
            .For(new("too_long", "40", "41"), LanguageMap.Of("What does {1} say?"), Wording.Usual, "en")
            .ShouldBe("“What does {1} say?” has room for 40 characters, and this has 41.");

    [Theory]
    [InlineData("{'units':'any','where':{'of':'answer.badge', 'was_given': true}}")]
    [InlineData("{'lines':'any'}")]
    public void A_question_of_the_order_on_a_product_page_reads_no_other_lines(string when)
    {
        var order = Fixture.AskOrder("who", "line_text") with { Step = Step.ProductPage.Key, When = Fixture.Condition(when) };
        var badge = Fixture.AskUnit("badge", "line_text");
        RegisterPlan
            .Compile(Fixture.Register(order, badge), FieldTypes.Standard, TestKind.All)
            .Problems.Single()
            .Sentence.ShouldContain("from the cart on");

        // A question of the line sees its own units there.
        RegisterPlan
            .Compile(
                Fixture.Register(
                    Fixture.Ask("lead", "line_text") with
                    {
                        When = Fixture.Condition("{'units':'any','where':{'of':'answer.badge', 'was_given': true}}"),
                    },
                    badge
                ),
                FieldTypes.Standard,
                TestKind.All
            )
            .Problems.ShouldBeEmpty();
    }

    [Fact]
    public void The_order_keeps_that_something_is_no_longer_asked_and_never_what_was_answered()
    {
        var more = Fixture.AskOrder("more", "yes_no");
        var what = Fixture.AskOrder("what", "line_text") with { When = Fixture.Condition("{'of':'answer.more', 'is': true}") };
        var cart = Fixture.Of(Fixture.Line("LABEL"));
        var order = Fixture.Order(
            Fixture.Evaluate(
                cart with
                {
                    Answers = cart.Answers.With("more", AnswerValue.No).With("what", AnswerValue.Of("secret words")),
                },
                more,
                what
            )
        );
        order.NotAsked.Where(static n => n.Answered).Select(n => $"{n.Slot}: {n.Why}").ShouldBe(["order/what: “The more” is no"]);
        JsonSerializer.Serialize(order, DocumentJson.Options).ShouldNotContain("secret words");
    }

    [Fact]
    public void A_section_in_which_nothing_is_asked_does_not_ask_whether_to_open()
    {
        var section = Fixture.Section("card") with { Opening = LanguageMap.Of("A card?") };
        var inside = Fixture.AskOrder("message", "line_text") with { Section = "card" };
        bool Asks(Section s, Field f) =>
            Fixture
                .Evaluate(Fixture.Plan(Fixture.Register(f) with { Sections = [s] }), Fixture.Of(Fixture.Line("LABEL")))
                .Asked.Any(a => a.Field.Key is "card" or "message");
        Asks(section, inside).ShouldBeTrue();
        Asks(section, inside with { Retired = true }).ShouldBeFalse();
        Asks(section, inside with { SwitchedOff = true }).ShouldBeFalse();
        Asks(section with { Retired = true }, inside).ShouldBeFalse();
    }
}
