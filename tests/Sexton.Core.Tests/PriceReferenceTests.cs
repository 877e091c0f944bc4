using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Catalogue;
using Sexton.Core.Codes;
using Sexton.Core.Conditions;
using Sexton.Core.Pricing;
using Sexton.Core.Register;

namespace Sexton.Core.Tests;

/// <summary>
/// A hundred thousand generated carts under generated prices, written out with every row that the core made of them. A second calculation,
/// slow and in exact fractions, judges them in tests/e2e/prices.spec.ts; it shares nothing with this one but the words of the design.
/// </summary>
public sealed class PriceReferenceTests
{
    private const int Registers = 500;
    private const int CartsOfEach = 200;

    private static readonly string[] Letters = ["a", "Z", "7", " ", "é", "e\u0301", "’", "-", "ß", "字", "🍎", "\n", "\u00a0", ".", "Ω", "٣"];
    private static readonly string[] Types = ["line_text", "long_text", "number", "amount_of_money", "yes_no", "one_of", "several_of", "how_many_of_each"];
    private static readonly string[] Choices = ["ash", "beech", "cedar", "damson"];

    private readonly Random _random = new(20261126);

    [Fact]
    public void Priced_carts_are_written_out_row_by_row()
    {
        using var writer = new StreamWriter(ReferenceFiles.PathOf("prices.jsonl"));
        var evaluation = new Evaluation();
        var (carts, rows, refused, components, shared) = (0, 0, 0, 0, 0);
        for (var r = 0; r < Registers; r++)
        {
            var currency = Pick("EUR", "EUR", "JPY", "KWD");
            var plan = Fixture.Plan([.. Enumerable.Range(0, 7).Select(i => Field("f" + i.ToString(CultureInfo.InvariantCulture)))]);
            var shop = Shop(currency);
            writer.WriteLine(Written(new { currency, include_tax = shop.Tax.PricesIncludeTax, standard_ppm = shop.Tax.StandardPpm, coupons = shop.Coupons, fields = plan.Content.Fields.Where(static f => !f.BuiltIn), items = new[] { "TREE", "POT-S" }.Select(i => new { code = i, price = shop.FindItem(i)!.Value.PriceMinor, tax_ppm = shop.FindItem(i)!.Value.Product.TaxPpm }) }));
            for (var c = 0; c < CartsOfEach; c++)
            {
                evaluation.Run(plan, shop, Cart(plan), Fixture.Today);
                refused += evaluation.Problems.Any(static p => p.Refusal.Code == Sentences.TwoPrices) ? 1 : 0;
                evaluation.Problems.ShouldNotContain(static p => p.Refusal.Code == Sentences.PriceOutOfRange);

                // Whatever is taken off, nobody is paid for buying, and no tax is below nothing.
                evaluation.TotalMinor.ShouldBeGreaterThanOrEqualTo(0);
                evaluation.Taxes.ShouldAllBe(static t => t.TaxMinor >= 0 && t.BaseMinor >= 0);
                (evaluation.Rows.Sum(static row => row.SumMinor) + (shop.Tax.PricesIncludeTax ? 0 : evaluation.Taxes.Sum(static t => t.TaxMinor))).ShouldBe(evaluation.TotalMinor);
                components += evaluation.Rows.Count(static row => row.Kind == PriceRowKind.Component);
                shared += evaluation.Rows.Count(static row => row.Kind == PriceRowKind.Answer && row.Place.Line < 0 && row.SumMinor < 0);
                carts++;
                rows += evaluation.Rows.Count;
                writer.WriteLine(Written(evaluation));
            }
        }

        carts.ShouldBe(Registers * CartsOfEach, "no cart is left out");
        refused.ShouldBeInRange(100, 10_000);
        components.ShouldBeGreaterThan(10_000);
        shared.ShouldBeGreaterThan(10_000);
        rows.ShouldBeGreaterThan(carts * 4, "carts without priced answers show little");
    }

    private Field Field(string key)
    {
        var type = Pick(Types);
        var level = Pick(Level.Line, Level.Line, Level.Unit, Level.Order);
        (string, object)[] settings = type switch
        {
            "number" => [("decimals", 2)],
            "line_text" or "long_text" => [("longest", 60)],
            "one_of" or "several_of" or "how_many_of_each" => [("choices", Fixture.Choices(Choices))],
            _ => [],
        };
        var prices = Enumerable.Range(0, _random.Next(1, 4)).Select(_ => Price(type, level)).ToArray();
        return Fixture.Ask(key, type, settings) with
        {
            Level = level,
            Step = level == Level.Order ? Step.Cart.Key : Step.ProductPage.Key,
            AskedOf = level == Level.Unit ? ProductScope.Only("WALK") : ProductScope.Every,
            Prices = [.. prices],
            IncludedPicks = Chance(3) ? _random.Next(1, 4) : 0,
            Uses = Chance(2) ? [Use(type, level)] : [],
        };
    }

    private Use Use(string type, Level level)
    {
        var choice = type is "one_of" or "several_of" or "how_many_of_each" && Chance(3, 4) ? Pick(Choices) : null;
        return new Use
        {
            Item = Pick("TREE", "POT-S"),
            Choice = choice,
            Quantity = _random.Next(1, 4),
            By = (choice is null && type is "number" or "several_of") || type == "how_many_of_each" ? Pick(PriceBy.Answer, PriceBy.Count) : PriceBy.Answer,
            Per = level == Level.Order ? UsePer.Order : Pick(UsePer.Unit, UsePer.Unit, UsePer.Line, UsePer.Order),
            TakesPrice = !Chance(4),
        };
    }

    private Price Price(string type, Level level)
    {
        var kind = level switch
        {
            Level.Order => Pick(PriceKind.OncePerOrder, PriceKind.OncePerOrder, PriceKind.Percent),
            Level.Line => Pick(PriceKind.PerUnit, PriceKind.PerUnit, PriceKind.Percent, PriceKind.OncePerLine, PriceKind.OncePerOrder, Chance(5) ? PriceKind.ForTheGoods : PriceKind.PerUnit),
            _ => Pick(PriceKind.PerUnit, PriceKind.Percent, PriceKind.OncePerLine, PriceKind.OncePerOrder),
        };
        var hasChoices = type is "one_of" or "several_of" or "how_many_of_each";
        var choice = hasChoices && Chance(1, 4) ? null : hasChoices ? Pick(Choices) : null;
        var by = kind == PriceKind.Percent ? PriceBy.Answer : (type, choice) switch
        {
            ("line_text" or "long_text", _) => Pick(PriceBy.Answer, PriceBy.Letter, PriceBy.Letter, PriceBy.Character, PriceBy.Word),
            ("number", _) => Pick(PriceBy.Answer, PriceBy.Count, PriceBy.Count),
            ("amount_of_money", _) => Pick(PriceBy.Answer, PriceBy.Amount),
            ("several_of", null) or ("how_many_of_each", _) => Pick(PriceBy.Answer, PriceBy.Count),
            _ => PriceBy.Answer,
        };
        var counted = by is not (PriceBy.Answer or PriceBy.Amount);
        return new Price
        {
            Kind = kind,
            By = by,
            Choice = choice,
            Included = counted && Chance(2) ? _random.Next(1, 15) : 0,
            BandForAll = counted && Chance(4),
            Tariff = Tariff(kind),
            For =
            [
                .. Chance(3) ? [new TariffFor(Pick("member", "trade"), null, Tariff(kind))] : Array.Empty<TariffFor>(),
                .. Chance(3) ? [new TariffFor(null, Pick("POT-S", "POT-L"), Tariff(kind))] : Array.Empty<TariffFor>(),
                .. Chance(4) ? [new TariffFor("trade", "POT-L", Tariff(kind))] : Array.Empty<TariffFor>(),
            ],
            When = level != Level.Order && Chance(4) ? new ConditionTest(Facts.Quantity, Relation.Over, AnswerValue.Of(2m)) : null,
            TaxPpm = Chance(4) ? Pick(0, 90_000, 135_000) : null,
        };
    }

    private Tariff Tariff(PriceKind kind)
    {
        long Minor() => kind == PriceKind.ForTheGoods || Chance(1, 5) ? _random.Next(0, 4000) : _random.Next(-3000, 1000);
        var from = 0;
        return new Tariff
        {
            Minor = Minor(),
            Ppm = kind == PriceKind.Percent ? _random.Next(-300_000, 400_001) : 0,
            Bands = Chance(3) ? [.. Enumerable.Range(0, _random.Next(1, 4)).Select(_ => new PriceBand(from += _random.Next(1, 12), Minor()))] : [],
            CeilingMinor = Chance(5) ? _random.Next(0, 3000) : null,
        };
    }

    private ProductIndex Shop(string currency) => new(
        Fixture.Products.All.Select(p => p with
        {
            PriceMinor = _random.Next(0, 30_000),
            TaxPpm = Pick<int?>(null, null, 0, 135_000, 90_000),
            Variants = [.. p.Variants.Select(v => v with { PriceMinor = _random.Next(0, 9_000) })],
        }),
        Fixture.Products.Groups,
        currency,
        "IE")
    {
        Tax = new TaxRules(Pick(230_000, 210_000, 0, 81_000), Chance(2)),
        Coupons = [new Coupon("SHARE", LanguageMap.Of("A share")) { Ppm = _random.Next(1, 1_000_001) }, new Coupon("AMOUNT", LanguageMap.Of("An amount")) { Minor = _random.Next(1, 20_000) }],
    };

    private CartContent Cart(RegisterPlan plan)
    {
        var lines = Enumerable.Range(0, _random.Next(1, 4)).Select(_ =>
        {
            var product = Pick("LABEL", "TREE", "POT/POT-S", "POT/POT-L", "WALK", "WALK");
            var line = Fixture.Line(product, product == "WALK" ? _random.Next(1, 5) : Chance(3) ? _random.Next(1, 60) : _random.Next(1, 5)) with { Answers = Answers(plan.LineFields) };
            return product == "WALK" && plan.AsksPerUnit(Fixture.Products.Find("WALK")!)
                ? line with { Units = [.. Enumerable.Range(0, line.Quantity).Select(u => new CartUnit("u" + u.ToString(CultureInfo.InvariantCulture), Answers(plan.UnitFields)))] }
                : line;
        });
        return Fixture.Of([.. lines]) with
        {
            Answers = AnswerSet.Of(Fixture.Shopper.Concat(Answers(plan.OrderFields.Where(static f => !f.Field.BuiltIn)))),
            Group = Pick("", "member", "trade"),
            Coupon = Chance(3) ? Pick("SHARE", "AMOUNT") : "",
        };
    }

    private AnswerSet Answers(IEnumerable<PlannedField> fields) => Fixture.Answers([.. fields.Where(_ => !Chance(4)).Select(f => (f.Field.Key, Answer(f.Field.Type)))]);

    private object Answer(string type) => type switch
    {
        "number" => _random.Next(-200, 6000) / 100m,
        "amount_of_money" => (decimal)_random.Next(0, 90),
        "yes_no" => Chance(2),
        "one_of" => Pick(Choices),
        "several_of" => Choices.Where(_ => Chance(2)).ToArray(),
        "how_many_of_each" => Choices.Where(_ => Chance(2)).ToDictionary(static c => c, _ => _random.Next(1, 8).ToString(CultureInfo.InvariantCulture), StringComparer.Ordinal),
        _ => string.Concat(Enumerable.Range(0, _random.Next(0, 40)).Select(_ => Pick(type == "line_text" ? Letters.Where(static l => l != "\n").ToArray() : Letters))),
    };

    private T Pick<T>(params T[] of) => of[_random.Next(of.Length)];

    private bool Chance(int of) => _random.Next(of) == 0;

    private bool Chance(int times, int of) => _random.Next(of) >= times;

    private static string Written(object value) => JsonSerializer.Serialize(value, RegisterJson.Options);

    // What a judge needs of a cart: canonical answers where they are asked, the price and rate of the goods, and what was made of it.
    private static string Written(Evaluation cart)
    {
        var lines = Enumerable.Range(0, cart.LineCount).Select(i => new
        {
            quantity = cart.LineAt(i).Quantity,
            price = cart.Goods(i).PriceMinor,
            tax_ppm = cart.Goods(i).Product.TaxPpm,
            variant = cart.Goods(i).Variant?.Code,
            answers = Answers(cart, cart.Plan.LineFields, new Place(i, -1)),
            units = Enumerable.Range(0, cart.UnitsOf(i)).Select(u => Answers(cart, cart.Plan.UnitFields, new Place(i, u))),
        });
        var rows = cart.Rows.Select(static r => new object?[]
        {
            r.Kind.ToString(), r.LineId is null ? -1 : r.Place.Line, r.UnitId is null ? -1 : r.Place.Unit, r.Field?.Field.Key, r.Choice, r.Quantity, r.UnitMinor, r.SumMinor, r.TaxPpm, r.TaxMinor,
        });
        return Written(new { group = cart.Group, coupon = cart.Cart.Coupon, lines, answers = Answers(cart, cart.Plan.OrderFields.Where(static f => !f.Field.BuiltIn), Place.Order), rows, total = cart.TotalMinor, refused = cart.Problems.Any(static p => p.Refusal.Code == Sentences.TwoPrices) });
    }

    private static JsonObject Answers(Evaluation cart, IEnumerable<PlannedField> fields, Place place) => new(fields
        .Where(f => cart.ValueOf(f, place) is not null)
        .Select(f => KeyValuePair.Create(f.Field.Key, JsonSerializer.SerializeToNode(cart.ValueOf(f, place), RegisterJson.Options))));
}
