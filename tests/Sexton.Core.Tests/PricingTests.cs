using System.Globalization;
using System.Text.Json;
using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Catalogue;
using Sexton.Core.Checks;
using Sexton.Core.Facts;
using Sexton.Core.Orders;
using Sexton.Core.Plan;
using Sexton.Core.Pricing;
using Sexton.Core.Projections;
using Sexton.Core.Register;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>What answers cost: each kind of price, the order of pricing, and rows that always sum.</summary>
public sealed class PricingTests
{
    private const string Typefaces = "{'kind':'per_unit','choice':'punched','tariff':{'minor':350}}";

    [Theory]
    // what is written, letters, characters, words
    [InlineData("Zoë", 3, 3, 1)]
    [InlineData("Zoe\u0308", 3, 3, 1)]
    [InlineData("Ida’s quince, 1987", 14, 18, 3)]
    [InlineData("— & —", 0, 5, 0)]
    [InlineData("a\nb c", 3, 5, 3)]
    [InlineData("Ωmega é", 6, 7, 2)]
    [InlineData("🍎 no. 5", 3, 7, 2)]
    [InlineData("12/05/2027 +353 1 555", 15, 21, 4)]
    [InlineData("क्षत्रिय 1", 4, 5, 2)]
    [InlineData("", 0, 0, 0)]
    public void Letters_characters_and_words_are_counted(string text, int letters, int characters, int words) =>
        (TextCount.Letters(text), Graphemes.Count(text), TextCount.Words(text, "IE")).ShouldBe((letters, characters, words));

    // Common practice where texts are sold by the word: a date or a telephone number is one. Numbers of ranges that are reserved for drama (Ofcom's for London, the
    // Bundesnetzagentur's for Berlin, ARCEP's for Paris; from memory).
    [Theory]
    // text, the country of the shop, words as the trade counts them, runs between white space
    [InlineData("Ida 12 May 2026", "IE", 2, 4)]
    [InlineData("Ida, May 12, 2026, Aldmoor", "IE", 3, 5)]
    [InlineData("the 12th of May 2026", "IE", 2, 5)]
    [InlineData("12 MAY 2026", "IE", 1, 3)]
    [InlineData("12 May", "IE", 1, 2)]
    [InlineData("May 2026", "IE", 2, 2)] // a month is no date
    [InlineData("you may 12 times", "IE", 4, 4)]
    [InlineData("31 February 2026", "IE", 3, 3)] // no day of the calendar
    [InlineData("29 February 2028", "IE", 1, 3)]
    [InlineData("29 February 2026", "IE", 3, 3)]
    [InlineData("12 roses 2026", "IE", 3, 3)]
    [InlineData("geboren am 12. Mai 2026", "DE", 3, 5)]
    [InlineData("12. MÄRZ 2026", "DE", 1, 3)]
    [InlineData("12. 5. 2026", "DE", 1, 3)]
    [InlineData("13. 13. 2026", "DE", 3, 3)]
    [InlineData("le 1er août 2026", "FR", 2, 4)]
    [InlineData("12 mai 2026", "FR", 1, 3)]
    [InlineData("op 3 maart 2026", "NL", 2, 4)]
    [InlineData("3 mrt 2026", "NL", 1, 3)]
    [InlineData("2026 - 05 - 12", "IE", 1, 3)]
    [InlineData("12 05 2026", "IE", 1, 3)]
    [InlineData("12/05/2026", "IE", 1, 1)]
    [InlineData("1914 1918", "IE", 2, 2)] // two years are no number
    [InlineData("5 6 7", "IE", 3, 3)]
    [InlineData("Call 020 7946 0018 now", "GB", 3, 5)]
    [InlineData("Call +44 20 7946 0018 now", "IE", 3, 6)]
    [InlineData("020 7946 0018", "IE", 3, 3)] // no number of Ireland
    [InlineData("Ruf 030 / 23 12 50 18 an", "DE", 3, 7)]
    [InlineData("(030) 231 25 018", "DE", 1, 4)]
    [InlineData("01 99 00 12 34", "FR", 1, 5)]
    [InlineData("12 May 2026 +44 20 7946 0018", "IE", 2, 7)]
    [InlineData("2026 05 12 May", "IE", 2, 4)] // two dates that meet: the first counts
    [InlineData("12 May 2026/13 May 2027", "IE", 1, 5)] // written onto each other they are one
    [InlineData("12 May 2026,020 7946 0018 x", "GB", 2, 6)]
    [InlineData("Zoë\n12 May\n2026", "IE", 2, 4)] // over the end of a line, too
    public void A_date_or_a_telephone_number_is_one_word(string text, string home, int words, int runs) =>
        (TextCount.Words(text, home), TextCount.Runs(text)).ShouldBe((words, runs));

    // A label is € 17.00 by the catalogue.
    [Theory]
    // kind of answer with settings, its prices, whether it must be given, the answer, of one: what it costs so far, "open" with the least it comes to, or "open"
    [InlineData("amount_of_money", "'least':10", "by amount", true, "", "0 open 1000")]
    [InlineData("amount_of_money", "", "by amount", true, "", "0 open")]
    [InlineData("amount_of_money", "'least':10", "by amount", true, "40", "4000")]
    [InlineData("amount_of_money", "'least':10", "by amount", true, "5", "0 open 1000")] // refused is not answered
    [InlineData("amount_of_money", "'least':10", "by amount", false, "", "1700")] // who answers nothing pays what the catalogue says
    [InlineData("one_of", "", "a 2500, b 2000", true, "", "0 open 2000")]
    [InlineData("one_of", "", "a 2500, b 2000", true, "a", "2500")]
    [InlineData("one_of", "", "a 2500", true, "", "0 open 1700")] // the other choice leaves the catalogue's price
    [InlineData("one_of", "", "a 1500", true, "", "0 open 1500")]
    [InlineData("one_of", "", "a 1500", true, "b", "1700")]
    [InlineData("one_of", "", "all 2500", true, "", "0 open 2500")]
    [InlineData("line_text", "", "by letter 20", true, "", "0 open")]
    [InlineData("line_text", "", "by letter 20", true, "Ida", "60")]
    [InlineData("amount_of_money", "'least':10", "by amount, of trade", true, "", "1700")] // whose condition does not hold
    public void Goods_whose_price_is_answered_have_none_before(
        string type,
        string settings,
        string prices,
        bool required,
        string answer,
        string expected
    )
    {
        static Price One(string words) =>
            words.Split(' ') switch
            {
                ["by", "amount"] => new Price { Kind = PriceKind.ForTheGoods, By = AnswerMeasure.Amount },
                ["of", "trade"] => new Price { Kind = PriceKind.ForTheGoods },
                ["by", "letter", var minor] => new Price
                {
                    Kind = PriceKind.ForTheGoods,
                    By = AnswerMeasure.Letter,
                    Tariff = new Tariff { Minor = long.Parse(minor, CultureInfo.InvariantCulture) },
                },
                [var choice, var minor] => new Price
                {
                    Kind = PriceKind.ForTheGoods,
                    Choice = choice == "all" ? null : choice,
                    Tariff = new Tariff { Minor = long.Parse(minor, CultureInfo.InvariantCulture) },
                },
                _ => throw new ArgumentException(words, nameof(words)),
            };
        var when = prices.EndsWith("of trade", StringComparison.Ordinal) ? Fixture.Condition("{'of': 'group', 'is': 'trade'}") : null;
        var field = Fixture.Ask("price", type, type == "one_of" ? [("choices", Fixture.Choices("a", "b"))] : []) with
        {
            Required = required,
            Prices = [.. prices.Split(", ").Where(static p => p != "of trade").Select(p => One(p) with { When = when })],
        };
        foreach (var (name, value) in JsonSerializer.Deserialize<Dictionary<string, JsonElement>>($"{{{settings}}}".Replace('\'', '"'))!)
        {
            field = field with { Settings = field.Settings.SetItem(name, value) };
        }

        var evaluation = Fixture.Evaluate(Fixture.Of(Fixture.Line("LABEL", 2, answer.Length == 0 ? [] : [("price", answer)])), field);
        var goods = evaluation.Rows.First();
        var open = goods.OpenBy is null ? "" : $" open {goods.FromMinor}".TrimEnd();
        $"{goods.UnitMinor}{open}".ShouldBe(expected);
        goods.SumMinor.ShouldBe(2 * goods.UnitMinor);
        evaluation.TotalMinor.ShouldBe(2 * goods.UnitMinor);
        if (goods.OpenBy is not null)
        {
            evaluation.Problems.ShouldNotBeEmpty("what has no price yet cannot be ordered");
        }
    }

    [Theory]
    [InlineData(false, 2)]
    [InlineData(true, 4)]
    public void How_words_are_counted_can_be_said_at_the_price(bool runs, int words)
    {
        var field = Fixture.Wording() with
        {
            Prices =
            [
                new Price
                {
                    Kind = PriceKind.PerUnit,
                    By = AnswerMeasure.Word,
                    WordsAreRuns = runs,
                    Tariff = new Tariff { Minor = 100 },
                },
            ],
        };
        Fixture.Evaluate(Fixture.Cart("Ida 12 May 2026"), field).Rows.Last().SumMinor.ShouldBe(100 * words);
    }

    [Theory]
    // price of a text of so many letters: for one, in minor units
    [InlineData(0, "{'kind':'per_unit','tariff':{'minor':300}}", 0)]
    [InlineData(5, "{'kind':'per_unit','tariff':{'minor':300}}", 300)]
    [InlineData(12, "{'kind':'per_unit','by':'letter','included':12,'tariff':{'minor':20}}", 0)]
    [InlineData(13, "{'kind':'per_unit','by':'letter','included':12,'tariff':{'minor':20}}", 20)]
    [InlineData(20, "{'kind':'per_unit','by':'letter','included':12,'tariff':{'minor':20}}", 160)]
    [InlineData(20, "{'kind':'per_unit','by':'letter','included':12,'tariff':{'minor':20,'bands':[{'over':15,'minor':10}]}}", 110)]
    [InlineData(
        30,
        "{'kind':'per_unit','by':'letter','included':12,'tariff':{'minor':20,'bands':[{'over':15,'minor':10},{'over':25,'minor':5}]}}",
        185
    )]
    [InlineData(
        30,
        "{'kind':'per_unit','by':'letter','included':20,'tariff':{'minor':20,'bands':[{'over':15,'minor':10},{'over':25,'minor':5}]}}",
        75
    )]
    [InlineData(30, "{'kind':'per_unit','by':'letter','included':12,'tariff':{'minor':20,'ceiling_minor':150}}", 150)]
    [InlineData(30, "{'kind':'per_unit','by':'letter','tariff':{'minor':-20,'ceiling_minor':150}}", -150)]
    [InlineData(10, "{'kind':'per_unit','by':'letter','band_for_all':true,'tariff':{'minor':500,'bands':[{'over':10,'minor':800}]}}", 500)]
    [InlineData(11, "{'kind':'per_unit','by':'letter','band_for_all':true,'tariff':{'minor':500,'bands':[{'over':10,'minor':800}]}}", 800)]
    [InlineData(3, "{'kind':'per_unit','by':'letter','band_for_all':true,'included':3,'tariff':{'minor':500}}", 0)]
    [InlineData(9, "{'kind':'per_unit','by':'word','tariff':{'minor':70}}", 70)]
    public void A_text_is_priced_by_what_is_in_it(int letters, string price, long expected)
    {
        var field = Fixture.Ask("wording", "line_text") with { Prices = [Price(price)] };
        var evaluation = Fixture.Evaluate(Fixture.Of(Fixture.Line("LABEL", 2, ("wording", new string('n', letters)))), field);
        evaluation.TotalMinor.ShouldBe((1700 + expected) * 2);
        evaluation.Rows.Count.ShouldBe(expected == 0 ? 1 : 2);
    }

    [Theory]
    // type, answer, price, quantity, rows
    [InlineData("amount_of_money", "25.00", "{'kind':'for_the_goods','by':'amount'}", 2, "Zinc label 2×2500=5000")]
    [InlineData("amount_of_money", "25.00", "{'kind':'per_unit','by':'amount'}", 2, "Zinc label 2×1700=3400|The a 2×2500=5000")]
    [InlineData("number", "2.5", "{'kind':'per_unit','by':'count','tariff':{'minor':333}}", 2, "Zinc label 2×1700=3400|The a 2×833=1666")]
    [InlineData("number", "2", "{'kind':'once_per_line','by':'count','tariff':{'minor':333}}", 3, "Zinc label 3×1700=5100|The a 1×666=666")]
    [InlineData("number", "0", "{'kind':'per_unit','by':'count','tariff':{'minor':333}}", 2, "Zinc label 2×1700=3400")]
    [InlineData("number", "-3", "{'kind':'per_unit','by':'count','tariff':{'minor':333}}", 2, "Zinc label 2×1700=3400")]
    [InlineData("yes_no", "no", "{'kind':'per_unit','tariff':{'minor':100}}", 2, "Zinc label 2×1700=3400")]
    [InlineData("yes_no", "yes", "{'kind':'percent','tariff':{'ppm':75000}}", 3, "Zinc label 3×1700=5100|The a 1×383=383")]
    [InlineData("yes_no", "yes", "{'kind':'percent','tariff':{'ppm':-75000}}", 3, "Zinc label 3×1700=5100|The a 1×-383=-383")]
    [InlineData(
        "yes_no",
        "yes",
        "{'kind':'percent','tariff':{'ppm':75000,'ceiling_minor':300}}",
        3,
        "Zinc label 3×1700=5100|The a 1×300=300"
    )]
    [InlineData(
        "yes_no",
        "yes",
        "{'kind':'once_per_line','tariff':{'minor':-6000}}",
        3,
        "Zinc label 3×1700=5100|The a 1×-6000=-6000|No price below nothing 1×900=900"
    )]
    [InlineData(
        "yes_no",
        "yes",
        "{'kind':'once_per_order','tariff':{'minor':490},'label':{'en':'Set-up'}}",
        3,
        "Zinc label 3×1700=5100|Set-up 1×490=490"
    )]
    [InlineData(
        "yes_no",
        "yes",
        "{'kind':'per_unit','when':{'of':'quantity', 'over': 2},'tariff':{'minor':100}}",
        2,
        "Zinc label 2×1700=3400"
    )]
    [InlineData(
        "yes_no",
        "yes",
        "{'kind':'per_unit','when':{'of':'quantity', 'over': 2},'tariff':{'minor':100}}",
        3,
        "Zinc label 3×1700=5100|The a 3×100=300"
    )]
    public void Each_kind_of_price_makes_its_row(string type, string answer, string price, int quantity, string rows)
    {
        object given = answer switch
        {
            "yes" => true,
            "no" => false,
            _ => decimal.Parse(answer, CultureInfo.InvariantCulture),
        };
        var field = Fixture.Ask("a", type, type == "number" ? [("decimals", 1)] : []) with { Prices = [Price(price)] };
        Rows(Fixture.Evaluate(Fixture.Of(Fixture.Line("LABEL", quantity, ("a", given))), field)).ShouldBe(rows);
    }

    [Theory]
    // picked, included, rows of the extras: plain costs nothing, ribbon 150, card 250, box 250
    [InlineData("plain", 0, "")]
    [InlineData("ribbon,card", 0, "ribbon 150|card 250")]
    [InlineData("ribbon,card", 1, "card 250")]
    [InlineData("ribbon,card", 2, "")]
    [InlineData("ribbon,card,box", 2, "box 250")]
    [InlineData("plain,card,box", 2, "box 250")]
    [InlineData("plain,ribbon,card,box", 1, "ribbon 150|card 250|box 250")]
    public void The_cheapest_picks_are_included(string picked, int included, string expected)
    {
        var field = Fixture.Ask("extras", "several_of", ("choices", Fixture.Choices("plain", "ribbon", "card", "box"))) with
        {
            IncludedPicks = included,
            Prices =
            [
                Price("{'kind':'per_unit','choice':'ribbon','tariff':{'minor':150}}"),
                Price("{'kind':'per_unit','choice':'card','tariff':{'minor':250}}"),
                Price("{'kind':'per_unit','choice':'box','tariff':{'minor':250}}"),
            ],
        };
        var evaluation = Fixture.Evaluate(Fixture.Of(Fixture.Line("LABEL", 1, ("extras", picked.Split(',')))), field);
        string.Join('|', evaluation.Rows.Skip(1).Select(r => $"{r.Price!.Price.Choice} {r.UnitMinor}")).ShouldBe(expected);
    }

    [Theory]
    // three tulips at 40 and two crocuses at 25, with so many included
    [InlineData(0, "tulip 120|crocus 50")]
    [InlineData(1, "tulip 120|crocus 25")]
    [InlineData(3, "tulip 80")]
    [InlineData(9, "")]
    public void Of_how_many_of_each_every_one_counts(int included, string expected)
    {
        var field = Fixture.Ask("bulbs", "how_many_of_each", ("choices", Fixture.Choices("tulip", "crocus"))) with
        {
            IncludedPicks = included,
            Prices =
            [
                Price("{'kind':'per_unit','by':'count','choice':'tulip','tariff':{'minor':40}}"),
                Price("{'kind':'per_unit','by':'count','choice':'crocus','tariff':{'minor':25}}"),
            ],
        };
        var counts = new Dictionary<string, string>(StringComparer.Ordinal) { ["tulip"] = "3", ["crocus"] = "2" };
        var evaluation = Fixture.Evaluate(Fixture.Of(Fixture.Line("LABEL", 1, ("bulbs", counts))), field);
        string.Join('|', evaluation.Rows.Skip(1).Select(r => $"{r.Price!.Price.Choice} {r.UnitMinor}")).ShouldBe(expected);
    }

    [Theory]
    // the time that was chosen, what it adds and weighs
    [InlineData("morning", "", 0)]
    [InlineData("evening", "evening 500", 40)]
    public void A_time_has_its_price(string slot, string expected, int grams)
    {
        var choices = Fixture.Choices("morning", "evening");
        choices[1] = choices[1] with { WeightGrams = 40 };
        var field = Fixture.Ask("slot", "time_slot", ("choices", choices)) with
        {
            Prices = [Price("{'kind':'per_unit','choice':'evening','tariff':{'minor':500}}")],
        };
        var value = new Dictionary<string, string>(StringComparer.Ordinal) { ["day"] = "2027-01-01", ["slot"] = slot };
        var evaluation = Fixture.Evaluate(Fixture.Of(Fixture.Line("LABEL", 1, ("slot", value))), field);
        string.Join('|', evaluation.Rows.Skip(1).Select(r => $"{r.Price!.Price.Choice} {r.UnitMinor}")).ShouldBe(expected);
        evaluation.WeightGrams.ShouldBe(grams);
    }

    [Theory]
    // group, variant, amount
    [InlineData("", "POT-S", 100)]
    [InlineData("trade", "POT-S", 80)]
    [InlineData("", "POT-L", 60)]
    [InlineData("trade", "POT-L", 40)]
    [InlineData("member", "POT-L", 60)]
    public void Groups_and_variants_have_amounts_of_their_own(string group, string variant, long expected)
    {
        var price = Price(
            "{'kind':'per_unit','tariff':{'minor':100},'for':[{'group':'trade','tariff':{'minor':80}},{'variant':'POT-L','tariff':{'minor':60}},{'group':'trade','variant':'POT-L','tariff':{'minor':40}},{'group':'trade','tariff':{'minor':81}},{'variant':'POT-L','tariff':{'minor':61}},{'group':'trade','variant':'POT-L','tariff':{'minor':41}}]}"
        );
        var cart = Fixture.Of(Fixture.Line("POT/" + variant, 1, ("a", true))) with { Group = group };
        Fixture.Evaluate(cart, Fixture.Ask("a", "yes_no") with { Prices = [price] }).Rows[1].UnitMinor.ShouldBe(expected);
    }

    [Fact]
    public void Lines_are_priced_in_their_order_and_percentages_leave_out_what_answers_add()
    {
        var evaluation = Fixture.Evaluate(
            Fixture.Of(
                Fixture.Line("LABEL", 3, ("credit", 20), ("wording", "Quince"), ("once", true), ("face", "punched"), ("care", true))
            ),
            Fixture.Ask("care", "yes_no") with
            {
                Prices = [Price("{'kind':'percent','tariff':{'ppm':100000}}")],
            },
            Fixture.Ask("once", "yes_no") with
            {
                Prices = [Price("{'kind':'once_per_line','tariff':{'minor':500}}")],
            },
            Fixture.Ask("wording", "line_text") with
            {
                Prices = [Price("{'kind':'per_unit','by':'letter','tariff':{'minor':10}}")],
            },
            Fixture.Ask("face", "one_of", ("choices", Fixture.Choices("cast", "punched"))) with
            {
                Prices = [Price(Typefaces)],
            },
            Fixture.Ask("credit", "amount_of_money") with
            {
                Prices = [Price("{'kind':'for_the_goods','by':'amount'}")],
            }
        );
        Rows(evaluation)
            .ShouldBe("Zinc label 3×2000=6000|The wording 3×60=180|The face: A punched 3×350=1050|The care 1×600=600|The once 1×500=500");
    }

    [Fact]
    public void Answers_of_units_are_summed_and_never_multiplied()
    {
        var line = Fixture.Line("WALK", 3) with
        {
            Units = [Unit("u1", ("badge", "Ida")), Unit("u2", ("badge", "")), Unit("u3", ("badge", "Odile"))],
        };
        var evaluation = Fixture.Evaluate(
            Fixture.Of(line),
            Fixture.AskUnit("badge", "line_text") with
            {
                Prices =
                [
                    Price("{'kind':'per_unit','by':'letter','tariff':{'minor':10}}"),
                    Price("{'kind':'percent','tariff':{'ppm':50000}}"),
                    Price("{'kind':'once_per_line','by':'letter','tariff':{'minor':100}}"),
                ],
            }
        );
        Rows(evaluation)
            .ShouldBe(
                "Orchard walk 3×1800=5400|The badge 1×30=30|The badge 1×50=50|The badge 1×90=90|The badge 1×90=90|The badge 1×500=500"
            );
        evaluation.Rows.Select(r => r.UnitId).ShouldBe([null, "u1", "u3", "u1", "u3", "u3"]);
    }

    [Fact]
    public void What_is_charged_once_per_order_does_not_depend_on_the_order_of_lines()
    {
        var field = Fixture.Ask("wording", "line_text") with
        {
            Prices = [Price("{'kind':'once_per_order','by':'letter','tariff':{'minor':100}}")],
        };
        var lines = new[]
        {
            Fixture.Line("LABEL", 1, ("wording", "abc")),
            Fixture.Line("TREE", 2, ("wording", "abcdef")),
            Fixture.Line("TALL", 1, ("wording", "ab")),
        };
        foreach (var order in new[] { lines, [.. lines.Reverse()] })
        {
            var row = Fixture.Evaluate(Fixture.Of(order), field).Rows.Single(r => r.Kind == PriceRowKind.Answer);
            (row.LineId, row.SumMinor).ShouldBe((null, 600L));
        }
    }

    [Fact]
    public void An_answer_of_the_order_adds_an_amount_or_a_share_of_all_goods()
    {
        var evaluation = Fixture.Evaluate(
            Fixture.Of(Fixture.Line("LABEL", 3), Fixture.Line("TREE")) with
            {
                Answers = Fixture.Shopper.With("wrap", AnswerValue.Yes).With("club", AnswerValue.Yes),
            },
            Fixture.AskOrder("wrap", "yes_no") with
            {
                Prices = [Price("{'kind':'once_per_order','tariff':{'minor':450}}")],
            },
            Fixture.AskOrder("club", "yes_no") with
            {
                Prices = [Price("{'kind':'percent','tariff':{'ppm':-50000}}")],
            }
        );
        Rows(evaluation).ShouldBe("Zinc label 3×1700=5100|Quince 1×8950=8950|The wrap 1×450=450|The club 1×-703=-703");
    }

    [Fact]
    public void A_component_is_taxed_as_it_is_when_it_is_sold_by_itself()
    {
        var field = Fixture.Ask("with", "yes_no") with { Uses = [new() { Item = "TREE", TakesPrice = true }] };
        var cart = Fixture.Of(Fixture.Line("LABEL", 2, ("with", true)));
        var evaluation = Evaluation.Of(Fixture.Plan(field), Shop(includeTax: true), cart, Fixture.Today);
        evaluation
            .Rows.Select(static r => (r.Kind, r.SumMinor, r.TaxPpm))
            .ShouldBe([(PriceRowKind.Goods, 3400L, 230_000), (PriceRowKind.Component, 17_900L, 135_000)]);
        // 17900 × 13.5 ÷ 113.5 = 2129.07 and 3400 × 23 ÷ 123 = 635.77.
        evaluation.Taxes.Select(static t => (t.RatePpm, t.TaxMinor)).ShouldBe([(135_000, 2129L), (230_000, 636L)]);
    }

    [Fact]
    public void Two_answers_cannot_both_be_the_price()
    {
        var price = Price("{'kind':'for_the_goods','by':'amount'}");
        Field[] fields =
        [
            Fixture.Ask("one", "amount_of_money") with
            {
                Prices = [price],
            },
            Fixture.Ask("two", "amount_of_money") with
            {
                Prices = [price],
            },
        ];
        var both = Fixture.Evaluate(Fixture.Of(Fixture.Line("LABEL", 1, ("one", 3), ("two", 4))), fields);
        both.Problems.Select(p => (p.Refusal.Key, p.Field!.Key, p.LineId)).ShouldBe([(ShopperMessages.TwoPrices, "two", "l1")]);
        Rows(both).ShouldBe("Zinc label 1×300=300", "the first holds until one of them is left out");
        Fixture.Sentences(both).ShouldBe(["“The two” and “The one” cannot both set the price. Leave one of them out."]);
        Fixture.Evaluate(Fixture.Of(Fixture.Line("LABEL", 1, ("two", 4))), fields).Problems.ShouldBeEmpty();
    }

    [Fact]
    public void An_amount_out_of_all_range_is_refused_and_overflows_nothing()
    {
        var field = Fixture.Ask("metres", "number") with
        {
            Prices = [Price("{'kind':'per_unit','by':'count','tariff':{'minor':1000000000}}")],
        };
        var evaluation = Fixture.Evaluate(Fixture.Of(Fixture.Line("LABEL", 999, ("metres", 900_000_000_000_000m))), field);
        evaluation.Problems.Single().Refusal.Key.ShouldBe(ShopperMessages.PriceOutOfRange);
        var row = Fixture.Evaluate(Fixture.Of(Fixture.Line("LABEL", 999, ("metres", 1000))), field);
        row.Problems.Single().Refusal.Key.ShouldBe(ShopperMessages.PriceOutOfRange);
    }

    [Fact]
    public void An_answer_that_is_not_asked_costs_nothing()
    {
        var field = Fixture.Ask("a", "yes_no") with
        {
            Prices = [Price("{'kind':'per_unit','tariff':{'minor':100}}")],
            AskedOf = ProductScope.Only("TREE"),
        };
        Fixture.Evaluate(Fixture.Of(Fixture.Line("LABEL", 1, ("a", true))), field).TotalMinor.ShouldBe(1700);
    }

    [Theory]
    // coupon, rows after the goods: 51.00 of labels at 23 % and 89.50 of a tree at 13.5 %
    [InlineData("", "")]
    [InlineData("SPRING", "-510@230000|-895@135000")]
    [InlineData("spring", "-510@230000|-895@135000")]
    [InlineData("TENNER", "-363@230000|-637@135000")]
    [InlineData("ALL", "-5100@230000|-8950@135000")]
    public void A_coupon_takes_off_at_every_rate_its_share(string code, string expected)
    {
        var evaluation = Evaluation.Of(
            Fixture.Plan(),
            Shop(includeTax: true),
            Fixture.Of(Fixture.Line("LABEL", 3), Fixture.Line("TREE")) with
            {
                Coupon = code,
            },
            Fixture.Today
        );
        evaluation.Problems.ShouldBeEmpty();
        string.Join(
                '|',
                evaluation
                    .Rows.Where(r => r.Kind == PriceRowKind.Coupon)
                    .OrderByDescending(r => r.TaxPpm)
                    .Select(r => $"{r.SumMinor}@{r.TaxPpm}")
            )
            .ShouldBe(expected);
    }

    [Fact]
    public void A_coupon_that_is_not_there_is_told()
    {
        var evaluation = Evaluation.Of(
            Fixture.Plan(),
            Shop(includeTax: true),
            Fixture.Of(Fixture.Line("LABEL")) with
            {
                Coupon = "GONE",
            },
            Fixture.Today
        );
        Fixture.Sentences(evaluation).ShouldBe(["The code “GONE” is not valid, or has run out. Take it out."]);
        evaluation.Problems.Single().Step.ShouldBe(Step.Cart.Key);
    }

    [Theory]
    // 51.00 at 23 % and 89.50 at 13.5 %; the tax of the whole sum at each rate, rounded once
    [InlineData(true, 954, 1065, 14050)]
    [InlineData(false, 1173, 1208, 16431)]
    public void Tax_is_reckoned_once_per_rate(bool includeTax, long labels, long tree, long total)
    {
        var evaluation = Evaluation.Of(
            Fixture.Plan(),
            Shop(includeTax),
            Fixture.Of(Fixture.Line("LABEL", 3), Fixture.Line("TREE")),
            Fixture.Today
        );
        evaluation.Taxes.ShouldBe([new TaxSum(TaxRate.Of(135_000), 8950, tree), new TaxSum(TaxRate.Of(230_000), 5100, labels)]);
        evaluation.TotalMinor.ShouldBe(total);
    }

    [Theory]
    // Hamilton's apportionment of seats to votes of 47,000, 16,000, 15,900, 12,000, 6,000 and 3,100: 10 seats go 5, 2, 1, 1, 1, 0
    // (the worked example of "Largest remainder method", Wikipedia; from memory).
    [InlineData("47000,16000,15900,12000,6000,3100", 100_000, 10, "5,2,1,1,1,0")]
    // Of two equal remainders the earlier one.
    [InlineData("1,1,1", 3, 2, "1,1,0")]
    [InlineData("1,1,1", 3, 1, "1,0,0")]
    [InlineData("-1,2,-3", 2, -1, "0,1,-2")]
    [InlineData("0,0", 7, 0, "0,0")]
    [InlineData("", 7, 0, "")]
    public void What_is_left_goes_to_the_greatest_remainders(string weights, int denominator, int total, string expected)
    {
        var of =
            weights.Length == 0
                ? []
                : weights
                    .Split(',')
                    .Select(w => Int128.Parse(w, CultureInfo.InvariantCulture) * (denominator == 100_000 ? total : 1))
                    .ToArray();
        var shares = new long[of.Length];
        LargestRemainder.Share(of, denominator, total, shares);
        string.Join(',', shares).ShouldBe(expected);
    }

    [Theory]
    [InlineData(5, 2, 3)]
    [InlineData(-5, 2, -3)]
    [InlineData(7, 3, 2)]
    [InlineData(8, 3, 3)]
    [InlineData(0, 3, 0)]
    public void Halves_go_away_from_zero(long numerator, long denominator, long expected) =>
        Exact.Round(numerator, denominator).ShouldBe(expected);

    [Fact]
    public void Rows_of_a_frozen_order_sum_to_its_total_with_and_without_tax()
    {
        foreach (var includeTax in new[] { true, false })
        {
            var plan = Fixture.Plan(Fixture.Wording() with { Prices = [Price("{'kind':'per_unit','by':'letter','tariff':{'minor':33}}")] });
            var cart = Fixture.Of(Fixture.Line("LABEL", 3, ("wording", "Zoë")), Fixture.Line("TREE")) with { Coupon = "SPRING" };
            var prices = OrderSnapshot
                .Of(Evaluation.Of(plan, Shop(includeTax), cart, Fixture.Today), 1, Fixture.Words(plan.Content))
                .Prices;
            prices.TotalMinor.ShouldBe(prices.Rows.Sum(r => r.SumMinor + (includeTax ? 0 : r.TaxMinor)));
            prices.SumOf("l1").ShouldBe(5100 + 297);
            prices.GoodsOf("l2").SumMinor.ShouldBe(8950);
            prices.ExtrasOf("l1").Single().Field.ShouldBe("wording");
            prices.ExtrasOf(null).Count().ShouldBe(2);
        }
    }

    [Theory]
    // level, type, price, what is wrong
    [InlineData("order", "yes_no", "{'kind':'per_unit'}", "It is asked once per order")]
    [InlineData("unit", "amount_of_money", "{'kind':'for_the_goods','by':'amount'}", "It is asked of each one")]
    [InlineData("line", "yes_no", "{'kind':'per_unit','by':'letter'}", "cannot be priced by the letter")]
    [InlineData("line", "line_text", "{'kind':'per_unit','by':'count'}", "cannot be priced by the count")]
    [InlineData("line", "number", "{'kind':'per_unit','by':'amount'}", "cannot be priced by the amount")]
    [InlineData("line", "line_text", "{'kind':'per_unit','choice':'oak'}", "There is no choice “oak”")]
    [InlineData("line", "line_text", "{'kind':'percent','by':'letter'}", "A share of the price is taken once")]
    [InlineData("line", "yes_no", "{'kind':'per_unit','included':2}", "What is included is counted")]
    [InlineData("line", "yes_no", "{'kind':'per_unit','tariff':{'minor':1000000001}}", "too great")]
    [InlineData("line", "yes_no", "{'kind':'percent','tariff':{'ppm':10000001}}", "ten times")]
    [InlineData("line", "yes_no", "{'kind':'for_the_goods','tariff':{'minor':-1}}", "below nothing")]
    [InlineData("line", "yes_no", "{'kind':'per_unit','tax_ppm':-1}", "A tax rate")]
    [InlineData(
        "line",
        "line_text",
        "{'kind':'per_unit','by':'letter','tariff':{'minor':1,'bands':[{'over':9,'minor':1},{'over':9,'minor':2}]}}",
        "do not rise"
    )]
    [InlineData("line", "yes_no", "{'kind':'per_unit','for':[{'tariff':{'minor':1}}]}", "Say for whom")]
    [InlineData("line", "words_only", "{'kind':'per_unit'}", "It asks nothing")]
    [InlineData("line", "yes_no", "{'kind':'per_unit','when':{'of':'answer.gone', 'was_given': true}}", "There is no field “gone”")]
    [InlineData("line", "yes_no", "{'kind':'per_unit','when':{'of':'cart_total', 'over': 3}}", "")]
    public void A_price_that_cannot_be_is_named(string level, string type, string price, string expected)
    {
        var at = Enum.Parse<Level>(level, ignoreCase: true);
        var field = Fixture.Ask("a", type) with
        {
            Level = at,
            Step = at == Level.Order ? Step.Cart.Key : Step.ProductPage.Key,
            Prices = [Price(price)],
        };
        var problem = RegisterPlan
            .Compile(Fixture.Register(field), FieldTypes.Standard, TestKind.All)
            .Problems.Where(p => p.Setting == "prices")
            .ShouldHaveSingleItem();
        problem.Sentence.ShouldContain(expected);
    }

    [Fact]
    public void A_price_is_written_and_read_as_json()
    {
        const string Written =
            "{'kind':'per_unit','by':'letter','words_are_runs':false,'tariff':{'minor':20,'ppm':0,'bands':[{'over':20,'minor':15}],'ceiling_minor':500},'included':12,'band_for_all':true,"
            + "'for':[{'group':'trade','variant':null,'tariff':{'minor':10,'ppm':0,'bands':[],'ceiling_minor':null}}],'when':{'of':'quantity', 'over': 2},'tax_ppm':90000,'untaxed_as':null,'label':{'en':'Letters'},'choice':null}";
        var read = JsonSerializer.SerializeToNode(Price(Written), DocumentJson.Options);
        System
            .Text.Json.Nodes.JsonNode.DeepEquals(read, System.Text.Json.Nodes.JsonNode.Parse(Written.Replace('\'', '"')))
            .ShouldBeTrue(read!.ToJsonString());
    }

    [Fact]
    public void Prices_of_a_cart_run_again_in_the_same_instance_are_the_same()
    {
        var plan = Fixture.Plan(
            Fixture.Ask("face", "one_of", ("choices", Fixture.Choices("cast", "punched"))) with
            {
                Prices = [Price(Typefaces)],
            }
        );
        var evaluation = new Evaluation();
        foreach (var (answer, total) in new[] { ("punched", 4100L), ("cast", 3400L), ("punched", 4100L) })
        {
            evaluation.Run(plan, Shop(includeTax: true), Fixture.Of(Fixture.Line("LABEL", 2, ("face", answer))), Fixture.Today);
            evaluation.TotalMinor.ShouldBe(total);
        }
    }

    [Theory]
    // quantity, place, rows: 350 for each comes within the goods on the cart line
    [InlineData(2, "order_page", "Zinc label 2×1700=3400|The a 2×350=700")]
    [InlineData(2, "cart_line", "Zinc label 2×2050=4100")]
    public void A_price_stays_within_the_goods_where_it_is_said_so(int quantity, string place, string rows)
    {
        var plan = Fixture.Plan(
            Fixture.Ask("a", "yes_no") with
            {
                Prices = [Price("{'kind':'per_unit','tariff':{'minor':350}}")],
                PriceWithin = ["cart_line"],
            }
        );
        var prices = PriceList.Of(Fixture.Evaluate(plan, Fixture.Of(Fixture.Line("LABEL", quantity, ("a", true)))));
        string.Join('|', prices.RowsAt(plan, place).Select(r => $"{r.Label} {r.Quantity}×{r.UnitMinor}={r.SumMinor}")).ShouldBe(rows);
    }

    [Fact]
    public void What_cannot_be_shared_out_evenly_has_no_amount_for_one()
    {
        var plan = Fixture.Plan(
            Fixture.Ask("a", "yes_no") with
            {
                Prices = [Price("{'kind':'once_per_line','tariff':{'minor':100}}")],
                PriceWithin = ["cart_line"],
            }
        );
        var row = PriceList
            .Of(Fixture.Evaluate(plan, Fixture.Of(Fixture.Line("LABEL", 3, ("a", true)))))
            .RowsAt(plan, "cart_line")
            .Single();
        (row.SumMinor, row.UnitMinor).ShouldBe((5200L, 0L));
    }

    [Theory]
    // price, what stands beside the question
    [InlineData("{'kind':'per_unit','tariff':{'minor':350}}", "+ €~3.50")]
    [InlineData("{'kind':'per_unit','tariff':{'minor':-350}}", "− €~3.50")]
    [InlineData("{'kind':'once_per_line','tariff':{'minor':350}}", "+ €~3.50 once")]
    [InlineData("{'kind':'percent','tariff':{'ppm':75000}}", "+ 7.5~% of the price")]
    [InlineData("{'kind':'percent','tariff':{'ppm':-50000,'ceiling_minor':2000}}", "− 5~% of the price, at most €~20.00")]
    [InlineData(
        "{'kind':'per_unit','by':'letter','included':12,'tariff':{'minor':20,'bands':[{'over':20,'minor':15}]}}",
        "12 included, then + €~0.20 a letter, + €~0.15 a letter over 20"
    )]
    [InlineData(
        "{'kind':'per_unit','by':'count','included':2,'tariff':{'minor':100,'bands':[{'over':3,'minor':-50}]}}",
        "2 included, then + €~1.00 each, − €~0.50 each over 3"
    )]
    [InlineData("{'kind':'for_the_goods','by':'amount'}", "the price")]
    [InlineData("{'kind':'for_the_goods','by':'count','tariff':{'minor':790}}", "€~7.90 each")]
    public void A_price_is_said_in_words(string json, string words)
    {
        var price = Price(json);
        new PriceWords("EUR", "en", Wording.Usual).Short(price, price.Tariff).ShouldBe(words.Replace('~', '\u00a0'));
    }

    [Fact]
    public void The_difference_between_versions_says_what_changed_about_a_price()
    {
        var before = Fixture.Ask("face", "one_of", ("choices", Fixture.Choices("cast", "punched"))) with { Prices = [Price(Typefaces)] };
        var after = before with
        {
            Prices =
            [
                Price(
                    "{'kind':'per_unit','choice':'punched','tariff':{'minor':400},'for':[{'group':'trade','tariff':{'minor':200}}],'when':{'of':'quantity', 'over': 2},'tax_ppm':90000,'untaxed_as':null,'label':{'en':'Engraving'}}"
                ),
            ],
            PriceWithin = ["cart_line"],
        };
        var clauses = RegisterDifference
            .Between(Fixture.Register(before), Fixture.Register(after), FieldTypes.Standard, TestKind.All, Fixture.Products)
            .Single()
            .Clauses;
        clauses
            .Select(c => $"{c.Lead}{c.Before} > {c.After}".Replace('\u00a0', '~'))
            .ShouldBe([
                "costs “A punched” + €~3.50 > “A punched” + €~4.00, for trade + €~2.00, taxed at 9~%, called “Engraving”, when the quantity is over 2",
                "shows its price within the goods on  > the cart line",
            ]);
    }

    [Theory]
    // what the price is for, and the code of the problem that the draft shows
    [InlineData("{'group':'gone','tariff':{'minor':1}}", "price_names_unknown")]
    [InlineData("{'variant':'POT-XXL','tariff':{'minor':1}}", "price_names_unknown")]
    [InlineData("{'group':'trade','variant':'POT-L','tariff':{'minor':1}}", null)]
    public void A_price_for_what_the_shop_does_not_have_is_a_problem(string other, string? code)
    {
        var field = Fixture.Ask("a", "yes_no") with { Prices = [Price("{'kind':'per_unit','tariff':{'minor':2},'for':[" + other + "]}")] };
        DraftChecks
            .Run(RegisterPlan.Compile(Fixture.Register(field), FieldTypes.Standard, TestKind.All), Fixture.Products)
            .Select(p => p.Code)
            .ShouldBe(code is null ? [] : [code]);
    }

    [Theory]
    // of which products the second is asked, under a condition or not, and whether that is a problem
    [InlineData("LABEL", false, true)]
    [InlineData("TREE", false, false)]
    [InlineData("LABEL", true, false)]
    public void Two_prices_of_the_goods_of_one_product_are_a_problem(string product, bool conditional, bool problem)
    {
        var price = Price("{'kind':'for_the_goods','by':'amount'}");
        var first = Fixture.Ask("one", "amount_of_money") with { Prices = [price], AskedOf = ProductScope.Only("LABEL") };
        var second = Fixture.Ask("two", "amount_of_money") with
        {
            Prices = [conditional ? Price("{'kind':'for_the_goods','by':'amount','when':{'of':'quantity', 'over': 2}}") : price],
            AskedOf = ProductScope.Only(product),
        };
        DraftChecks
            .Run(RegisterPlan.Compile(Fixture.Register(first, second), FieldTypes.Standard, TestKind.All), Fixture.Products)
            .Any(p => p.Code == "two_prices_of_the_goods")
            .ShouldBe(problem);
    }

    internal static Price Price(string json) => JsonSerializer.Deserialize<Price>(json.Replace('\'', '"'), DocumentJson.Options)!;

    internal static ProductIndex Shop(bool includeTax) =>
        new(
            Fixture.Products.All.Select(static p => p.Categories.Contains("Trees") ? p with { TaxPpm = 135_000 } : p),
            Fixture.Products.Groups,
            "EUR",
            "IE"
        )
        {
            Tax = new TaxRules(230_000, includeTax),
            Coupons =
            [
                new Coupon("SPRING", LanguageMap.Of("Spring")) { Ppm = 100_000 },
                new Coupon("TENNER", LanguageMap.Of("Ten off")) { Minor = 1000 },
                new Coupon("ALL", LanguageMap.Of("All of it")) { Minor = 99_999 },
            ],
        };

    internal static string Rows(Evaluation evaluation) =>
        string.Join('|', evaluation.Rows.Select(r => $"{r.LabelIn(Wording.Usual, "en")} {r.Quantity}×{r.UnitMinor}={r.SumMinor}"));

    private static CartUnit Unit(string id, params (string Key, object Value)[] answers) => new(id, Fixture.Answers(answers));
}
