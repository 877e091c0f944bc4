using Sexton.Core.Asking;
using Sexton.Core.Catalogue;
using Sexton.Core.Components;
using Sexton.Core.Facts;
using Sexton.Core.Pricing;
using Sexton.Core.Register;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>What answers take off, at which rates it counts, and what is included with its component.</summary>
public sealed class TakingOffTests
{
    [Theory]
    // the rates of the label and the tree (17.00 and 89.50), whether prices include tax, what the answer of the order takes off, rows, total
    [InlineData(230_000, 230_000, false, 500, "1700|8950|-500@230000", 12485)] // 101.50 × 1.23 = 124.845
    [InlineData(0, 0, false, 500, "1700|8950|-500@0", 10150)]
    [InlineData(0, 230_000, false, 1065, "1700|8950|-170@0|-895@230000", 11438)] // 15.30, and 80.55 × 1.23 = 99.08
    [InlineData(0, 230_000, false, 20_000, "1700|8950|-1700@0|-8950@230000|-9350@230000|9350@230000", 0)]
    [InlineData(0, 230_000, true, 20_000, "1700|8950|-1700@0|-8950@230000|-9350@230000|9350@230000", 0)]
    public void What_takes_off_the_order_falls_on_the_rates_of_its_goods(
        int label,
        int tree,
        bool included,
        long off,
        string rows,
        long total
    )
    {
        var field = Fixture.AskOrder("less", "yes_no") with
        {
            Prices =
            [
                new Price
                {
                    Kind = PriceKind.OncePerOrder,
                    Tariff = new() { Minor = -off },
                },
            ],
        };
        var evaluation = Priced(label, tree, included, Fixture.Of(Fixture.Line("LABEL"), Fixture.Line("TREE")), [field], ("less", true));
        string.Join('|', evaluation.Rows.Select(r => r.Kind == PriceRowKind.Goods ? $"{r.SumMinor}" : $"{r.SumMinor}@{r.TaxPpm}"))
            .ShouldBe(rows);
        evaluation.TotalMinor.ShouldBe(total);
        evaluation.Taxes.ShouldAllBe(static t => t.TaxMinor >= 0);
    }

    [Fact]
    public void What_takes_off_at_a_rate_at_which_nothing_stands_is_taken_off_the_others()
    {
        // 17.00 untaxed; 10.00 off, said to be taxed at 23 %: without goods at that rate the tax would be -2.30.
        var field = Fixture.Ask("less", "yes_no") with
        {
            Prices =
            [
                new Price
                {
                    Kind = PriceKind.PerUnit,
                    Tariff = new() { Minor = -1000 },
                    TaxPpm = 230_000,
                },
            ],
        };
        var evaluation = Priced(0, 0, false, Fixture.Of(Fixture.Line("LABEL", 1, ("less", true))), [field]);
        evaluation.Rows.Select(static r => (r.SumMinor, r.TaxPpm)).ShouldBe([(1700, 0), (-1000, 0)]);
        evaluation.TotalMinor.ShouldBe(700);
    }

    [Fact]
    public void Only_what_is_more_than_stands_at_a_rate_is_taken_off_the_others()
    {
        // 17.00 untaxed; 6.00 more and 10.00 off at 23 %: 6.00 of it falls on what stands there, 4.00 on the label.
        Field At23(string key, long minor) =>
            Fixture.Ask(key, "yes_no") with
            {
                Prices =
                [
                    new Price
                    {
                        Kind = PriceKind.PerUnit,
                        Tariff = new() { Minor = minor },
                        TaxPpm = 230_000,
                    },
                ],
            };
        var line = Fixture.Line("LABEL", 1, ("more", true), ("less", true));
        var evaluation = Priced(0, 0, false, Fixture.Of(line), [At23("more", 600), At23("less", -1000)]);
        evaluation.Rows.Where(static r => r.TaxPpm == 230_000).Sum(static r => r.SumMinor).ShouldBe(0);
        evaluation.TotalMinor.ShouldBe(1300);
    }

    [Theory]
    // what the label and the tree come to, what is charged once for the order: the greatest of what adds, else the smallest of what takes off
    [InlineData(300, 500, 500)]
    [InlineData(-300, -500, -300)]
    [InlineData(-300, 500, 500)]
    [InlineData(0, -500, -500)]
    public void Once_per_order_over_several_lines(long label, long tree, long charged)
    {
        var field = Fixture.Ask("it", "one_of", ("choices", Fixture.Choices("a", "b"))) with
        {
            Prices =
            [
                new Price
                {
                    Kind = PriceKind.OncePerOrder,
                    By = AnswerMeasure.Answer,
                    Tariff = new() { Minor = label },
                    For = [new PriceOverride(null, "POT-L", new() { Minor = tree })],
                },
            ],
        };
        var evaluation = Priced(
            0,
            0,
            true,
            Fixture.Of(Fixture.Line("LABEL", 1, ("it", "a")), Fixture.Line("POT/POT-L", 1, ("it", "a"))),
            [field]
        );
        evaluation.Rows.Where(static r => r.Kind == PriceRowKind.Answer).Sum(static r => r.SumMinor).ShouldBe(charged);
    }

    [Theory]
    // included with the price of the choice or as the cheapest picks of the field, how many are taken, what the charged ones cost, components used and charged
    [InlineData(2, 0, 5, 250, 5, 3)] // the third at 1.00, the fourth and fifth at 0.75
    [InlineData(0, 2, 5, 250, 5, 3)]
    [InlineData(2, 0, 2, 0, 2, 0)]
    [InlineData(0, 0, 5, 450, 5, 5)]
    public void Included_means_the_same_on_choice_and_field_and_its_component_is_free(
        int onChoice,
        int onField,
        int taken,
        long cost,
        long used,
        long charged
    )
    {
        var field = Fixture.Ask("bulbs", "how_many_of_each", ("choices", Fixture.Choices("tulip", "crocus"))) with
        {
            Prices =
            [
                new Price
                {
                    Kind = PriceKind.OncePerLine,
                    By = AnswerMeasure.Count,
                    Choice = "tulip",
                    Included = onChoice,
                    Tariff = new() { Minor = 100, Bands = [new PriceBand(3, 75)] },
                },
            ],
            IncludedPicks = onField,
            Uses =
            [
                new()
                {
                    Item = "POT-S",
                    Choice = "tulip",
                    By = AnswerMeasure.Count,
                    Per = UsagePer.Line,
                    TakesPrice = true,
                },
            ],
        };
        var evaluation = Priced(
            0,
            0,
            true,
            Fixture.Of(
                Fixture.Line("LABEL", 1, ("bulbs", new Dictionary<string, string>(StringComparer.Ordinal) { ["tulip"] = $"{taken}" }))
            ),
            [field]
        );
        evaluation.Rows.Where(static r => r.Kind == PriceRowKind.Answer).Sum(static r => r.SumMinor).ShouldBe(cost);
        evaluation.Rows.Where(static r => r.Kind == PriceRowKind.Component).Sum(static r => r.Quantity).ShouldBe((int)charged);
        evaluation.Uses.Single(static u => u.Item == "POT-S").Quantity.ShouldBe(used);
    }

    /// <summary>Every a ÷ b × c of small whole numbers, rounded up, against whole-number arithmetic.</summary>
    [Fact]
    public void Division_loses_nothing_before_a_rounding_is_named()
    {
        for (var a = 1; a <= 12; a++)
        {
            for (var b = 1; b <= 12; b++)
            {
                for (var c = 1; c <= 12; c++)
                {
                    var exact = Fraction.Of(a) / Fraction.Of(b) * Fraction.Of(c);
                    exact.Ceiling().ToDecimal(0).ShouldBe(((a * c) + b - 1) / b, $"{a} ÷ {b} × {c}");
                    exact.Floor().ToDecimal(0).ShouldBe(a * c / b);
                    exact.Round().ToDecimal(0).ShouldBe(((2 * a * c) + b) / (2 * b));
                    (Fraction.Of(-a) / Fraction.Of(b) * Fraction.Of(c)).Round().ToDecimal(0).ShouldBe(-(((2 * a * c) + b) / (2 * b)));
                }
            }
        }
    }

    [Fact]
    public void Two_thirds_of_six_are_four()
    {
        var field = Fixture.Ask(
            "it",
            "worked_out",
            (
                "working",
                System
                    .Text.Json.JsonDocument.Parse(
                        """[{"do":"take","of":{"value":2}},{"do":"divided_by","of":{"value":3}},{"do":"times","of":{"value":6}},{"do":"round_up"}]"""
                    )
                    .RootElement
            )
        );
        Fixture.Evaluate(Fixture.Of(Fixture.Line("LABEL")), field).Asked.Single(a => a.Field.Key == "it").Value!.Number.ShouldBe(4);
    }

    private static Evaluation Priced(
        int label,
        int tree,
        bool included,
        Cart.CartContent cart,
        Field[] fields,
        params (string Key, object Value)[] order
    )
    {
        var shop = new ProductIndex(
            Fixture.Products.All.Select(p => p with { TaxPpm = p.Code == "TREE" ? tree : label }),
            Fixture.Products.Groups,
            "EUR",
            "IE"
        )
        {
            Tax = new TaxRules(230_000, included),
        };
        return Evaluation.Of(
            Fixture.Plan(fields),
            shop,
            cart with
            {
                Answers = AnswerSet.Of(cart.Answers.Concat(Fixture.Answers(order))),
            },
            Fixture.Today
        );
    }
}
