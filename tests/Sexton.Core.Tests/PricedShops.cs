using System.Globalization;
using Sexton.Core.Cart;
using Sexton.Core.Catalogue;
using Sexton.Core.Codes;
using Sexton.Core.Components;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Formulas;
using Sexton.Core.Plan;
using Sexton.Core.Pricing;
using Sexton.Core.Register;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>
/// Makes shops whose answers cost something, and carts for them: prices of every kind, conditions between levels, sections, units, several picks, formulas,
/// components, item codes, coupons. A seed gives the same again.
/// </summary>
internal sealed class PricedShops(int seed)
{
    // In ten scripts, with marks and conjuncts.
    private static readonly string[] Letters =
    [
        "a",
        "Z",
        "7",
        " ",
        "é",
        "e\u0301",
        "’",
        "-",
        "ß",
        "字",
        "🍎",
        "\n",
        "\u00a0",
        ".",
        "Ω",
        "٣",
        "Ж",
        "ש\u05bc",
        "ع",
        "क्ष",
        "कि",
        "ก\u0e33",
        "தி",
        "한",
        "\u1112\u1161\u11ab",
        "か\u3099",
        "Ա",
        "ე",
        "👩🏽‍🌾",
    ];

    private static readonly string[] Types =
    [
        "line_text",
        "long_text",
        "number",
        "amount_of_money",
        "yes_no",
        "one_of",
        "several_of",
        "how_many_of_each",
        "worked_out",
    ];
    private static readonly string[] Counted = ["number", "worked_out"];
    private static readonly string[] Choices = ["ash", "beech", "cedar", "damson"];

    private readonly Random _random = new(seed);
    private bool _hasCents;

    /// <summary>The next register and catalogue.</summary>
    public (RegisterContent Register, ProductIndex Shop) Next()
    {
        var currency = Pick("EUR", "EUR", "JPY", "KWD");
        _hasCents = currency == "EUR";
        var register = Register();
        return (register, Shop(currency));
    }

    // Eight fields and a section for each level, which some of them stand in. Each hangs on some that stand before it.
    private RegisterContent Register()
    {
        var step = Pick(Step.ProductPage.Key, Step.Cart.Key);
        var sections = new[] { Level.Order, Level.Line, Level.Unit }
            .Select(level =>
                Fixture.Section("part_of_" + level.ToString().ToLowerInvariant(), level) with
                {
                    Step = level == Level.Order ? Step.Cart.Key : step,
                    Opening = Chance(2) ? LanguageMap.Of("More?") : LanguageMap.Empty,
                    When = Chance(3)
                        ? new ConditionTest(ShopFacts.Group, Pick(Relation.Is, Relation.IsNot), AnswerValue.Of("trade"))
                        : null,
                }
            )
            .ToList();
        var fields = new List<Field>();
        for (var i = 0; i < 8; i++)
        {
            fields.Add(Field("f" + i.ToString(CultureInfo.InvariantCulture), step, fields));
        }

        return Fixture.Register([.. fields]) with
        {
            Sections = [.. sections.Where(s => fields.Exists(f => f.Section == s.Key))],
            Codes = new CodeRules
            {
                Shop = new CodeRule
                {
                    Separator = Pick(".", "", "-"),
                    Case = Pick(CodeCase.AsIs, CodeCase.Upper, CodeCase.Lower),
                    WhenEmpty = Pick("", "X"),
                },
            },
        };
    }

    private Field Field(string key, string step, List<Field> before)
    {
        var level = Pick(Level.Line, Level.Line, Level.Unit, Level.Order);
        var numbers = before
            .Where(f =>
                Counted.Contains(f.Type)
                && f.Level <= level
                && (f.Step == step || f.Level == Level.Order)
                && (level == Level.Order || f.Level != Level.Order || step == Step.Cart.Key)
            )
            .ToList();
        var type = numbers.Count == 0 ? Pick(Types[..^1]) : Pick(Types);
        (string, object)[] settings = type switch
        {
            "number" => [("decimals", 2)],
            "line_text" or "long_text" => [("longest", 60)],
            "one_of" or "several_of" or "how_many_of_each" =>
            [
                (
                    "choices",
                    Fixture
                        .Choices(Choices)
                        .Select((c, i) => c with { Code = Pick("", "A", "b", "Cd"), WeightGrams = Chance(2) ? 0 : 10 * (i + 1) })
                        .ToArray()
                ),
            ],
            "worked_out" => [("decimals", _random.Next(0, 3)), ("working", Formula(numbers))],
            _ => [],
        };
        var prices = Enumerable.Range(0, _random.Next(1, 4)).Select(_ => Price(type, level, Reads(before, level, step))).ToArray();
        var field = Fixture.Ask(key, type, settings) with
        {
            Level = level,
            Step = level == Level.Order ? Step.Cart.Key : step,
            AskedOf = level == Level.Unit ? ProductScope.Only("WALK", "POT") : ProductScope.Every,
            Section = Chance(3) ? "part_of_" + level.ToString().ToLowerInvariant() : null,
            When = Chance(3) ? When(Reads(before, level, step), level, 2) : null,
            Default = Chance(4) && type is not ("worked_out" or "long_text") ? Fixture.Value(Answer(type, some: true)) : null,
            Prices = [.. prices],
            IncludedPicks = type.Contains("_of", StringComparison.Ordinal) && Chance(3) ? _random.Next(1, 4) : 0,
            Uses = Chance(2) ? [Use(type, level)] : [],
        };
        return level == Level.Line && Chance(2)
            ? field with
            {
                Code = new FieldCode
                {
                    Part =
                        type is "number" or "worked_out"
                        || (type.Contains("_of", StringComparison.Ordinal) && type != "amount_of_money" && !Chance(4))
                            ? ""
                            : "P",
                },
            }
            : field;
    }

    // What a field can hang on: what is answered before it, at its level or a wider one, and known at its step.
    private static List<Field> Reads(List<Field> before, Level level, string step) =>
        [
            .. before.Where(f =>
                f.Level <= level
                && (f.Level != Level.Order || level == Level.Order || step == Step.Cart.Key)
                && f.Type is "number" or "yes_no" or "one_of" or "worked_out"
                && (f.Level <= level && (f.Level != Level.Order || level == Level.Order || step == Step.Cart.Key))
            ),
        ];

    private Condition When(List<Field> reads, Level level, int depth)
    {
        if (depth > 0 && Chance(3))
        {
            return new ConditionGroup(
                Pick(GroupKind.All, GroupKind.Any, GroupKind.None),
                [.. Enumerable.Range(0, _random.Next(1, 4)).Select(_ => When(reads, level, depth - 1))]
            );
        }

        if (reads.Count == 0 || Chance(4))
        {
            return level == Level.Order || Chance(2)
                ? new ConditionTest(
                    ShopFacts.Group,
                    Pick(Relation.Is, Relation.IsNot),
                    AnswerValue.Of(Pick("member", "trade", "household"))
                )
                : new ConditionTest(
                    ShopFacts.Quantity,
                    Pick(Relation.Over, Relation.Under, Relation.AtLeast, Relation.AtMost, Relation.Is),
                    AnswerValue.Of((decimal)_random.Next(1, 5))
                );
        }

        var read = Pick([.. reads]);
        var fact = ShopFacts.OfAnswer(read.Key);
        return Chance(4)
            ? new ConditionTest(fact, Pick(Relation.WasGiven, Relation.WasNotGiven))
            : read.Type switch
            {
                "yes_no" => new ConditionTest(fact, Pick(Relation.Is, Relation.IsNot), AnswerValue.Of(Chance(2))),
                "one_of" => Chance(2)
                    ? new ConditionTest(fact, Pick(Relation.Is, Relation.IsNot), AnswerValue.Of(Pick(Choices)))
                    : new ConditionTest(
                        fact,
                        Pick(Relation.IsAmong, Relation.IsNotAmong),
                        AnswerValue.Of([.. Choices.Where(_ => Chance(2)).DefaultIfEmpty("ash")])
                    ),
                _ => new ConditionTest(
                    fact,
                    Pick(Relation.Over, Relation.Under, Relation.AtLeast, Relation.AtMost, Relation.Is, Relation.IsNot),
                    AnswerValue.Of(_random.Next(0, 60) / 2m)
                ),
            };
    }

    // Divided and multiplied in turn, so that anything but exact fractions shows.
    private FormulaRow[] Formula(List<Field> numbers)
    {
        Term Of() =>
            Chance(2)
                ? new Term { Fact = ShopFacts.OfAnswer(Pick([.. numbers]).Key), Else = Chance(2) ? AnswerValue.Of(2m) : null }
                : new Term { Value = AnswerValue.Of((decimal)_random.Next(-3, 8)) };
        return
        [
            new FormulaRow(FormulaStep.Take, new Term { Fact = ShopFacts.OfAnswer(Pick([.. numbers]).Key) }),
            .. Enumerable
                .Range(0, _random.Next(1, 5))
                .Select(_ =>
                    Pick(
                        FormulaStep.DividedBy,
                        FormulaStep.DividedBy,
                        FormulaStep.Times,
                        FormulaStep.Plus,
                        FormulaStep.Minus,
                        FormulaStep.AtLeast,
                        FormulaStep.AtMost,
                        FormulaStep.RoundUp,
                        FormulaStep.RoundDown,
                        FormulaStep.Round,
                        FormulaStep.ByBands
                    )
                )
                .Select(step =>
                    step switch
                    {
                        FormulaStep.RoundUp or FormulaStep.RoundDown or FormulaStep.Round => new FormulaRow(step)
                        {
                            To = Pick(1m, 0.5m, 3m, 0.1m),
                        },
                        FormulaStep.ByBands => new FormulaRow(step)
                        {
                            Bands = [new(0m, 1.5m), new(2.5m, _random.Next(2, 9)), new(7m, 11m)],
                        },
                        _ => new FormulaRow(step, Of()),
                    }
                ),
        ];
    }

    private ComponentUsage Use(string type, Level level)
    {
        var choice = type is "one_of" or "several_of" or "how_many_of_each" && Chance(3, 4) ? Pick(Choices) : null;
        return new ComponentUsage
        {
            Item = Pick("TREE", "POT-S"),
            Choice = choice,
            Quantity = _random.Next(1, 4),
            By =
                (choice is null && type is "number" or "several_of") || type == "how_many_of_each"
                    ? Pick(AnswerMeasure.Answer, AnswerMeasure.Count)
                    : AnswerMeasure.Answer,
            Per = level == Level.Order ? UsagePer.Order : Pick(UsagePer.Unit, UsagePer.Unit, UsagePer.Line, UsagePer.Order),
            TakesPrice = !Chance(4),
            TakesWeight = Chance(2),
        };
    }

    private Price Price(string type, Level level, List<Field> reads)
    {
        var kind = level switch
        {
            Level.Order => Pick(PriceKind.OncePerOrder, PriceKind.OncePerOrder, PriceKind.Percent),
            Level.Line => Pick(
                PriceKind.PerUnit,
                PriceKind.PerUnit,
                PriceKind.Percent,
                PriceKind.OncePerLine,
                PriceKind.OncePerOrder,
                Chance(5) ? PriceKind.ForTheGoods : PriceKind.PerUnit
            ),
            _ => Pick(PriceKind.PerUnit, PriceKind.Percent, PriceKind.OncePerLine, PriceKind.OncePerOrder),
        };
        var hasChoices = type is "one_of" or "several_of" or "how_many_of_each";
        var choice =
            hasChoices && Chance(1, 4) ? null
            : hasChoices ? Pick(Choices)
            : null;
        var by =
            kind == PriceKind.Percent
                ? AnswerMeasure.Answer
                : (type, choice) switch
                {
                    ("line_text" or "long_text", _) => Pick(
                        AnswerMeasure.Answer,
                        AnswerMeasure.Letter,
                        AnswerMeasure.Letter,
                        AnswerMeasure.Character,
                        AnswerMeasure.Word
                    ),
                    ("number" or "worked_out", _) => Pick(AnswerMeasure.Answer, AnswerMeasure.Count, AnswerMeasure.Count),
                    ("amount_of_money", _) => Pick(AnswerMeasure.Answer, AnswerMeasure.Amount),
                    ("several_of", null) or ("how_many_of_each", _) => Pick(AnswerMeasure.Answer, AnswerMeasure.Count),
                    _ => AnswerMeasure.Answer,
                };
        var counted = by is not (AnswerMeasure.Answer or AnswerMeasure.Amount);
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
                .. Chance(3) ? [new PriceOverride(Pick("member", "trade"), null, Tariff(kind))] : Array.Empty<PriceOverride>(),
                .. Chance(3) ? [new PriceOverride(null, Pick("POT-S", "POT-L"), Tariff(kind))] : Array.Empty<PriceOverride>(),
                .. Chance(4) ? [new PriceOverride("trade", "POT-L", Tariff(kind))] : Array.Empty<PriceOverride>(),
            ],
            When = Chance(4) ? When(reads, level, 1) : null,
            TaxPpm = Chance(4) ? Pick(0, 90_000, 135_000) : null,
        };
    }

    private Tariff Tariff(PriceKind kind)
    {
        long Minor() => kind == PriceKind.ForTheGoods || Chance(1, 5) ? _random.Next(0, 4000) : _random.Next(-3000, 1000);
        var from = 0m;
        return new Tariff
        {
            Minor = Minor(),
            Ppm = kind == PriceKind.Percent ? _random.Next(-300_000, 400_001) : 0,
            Bands = Chance(3)
                ? [.. Enumerable.Range(0, _random.Next(1, 4)).Select(_ => new PriceBand(from += _random.Next(1, 24) / 2m, Minor()))]
                : [],
            CeilingMinor = Chance(5) ? _random.Next(0, 3000) : null,
        };
    }

    private ProductIndex Shop(string currency) =>
        new(
            Fixture.Products.All.Select(p =>
                p with
                {
                    PriceMinor = _random.Next(0, 30_000),
                    WeightGrams = _random.Next(0, 9_000),
                    TaxPpm = Pick<int?>(null, null, 0, 135_000, 90_000),
                    Variants =
                    [
                        .. p.Variants.Select(v => v with { PriceMinor = _random.Next(0, 9_000), WeightGrams = _random.Next(0, 4_000) }),
                    ],
                }
            ),
            Fixture.Products.Groups,
            currency,
            "IE"
        )
        {
            Tax = new TaxRules(Pick(230_000, 210_000, 0, 81_000), Chance(2)),
            Coupons =
            [
                new Coupon("SHARE", LanguageMap.Of("A share")) { Ppm = _random.Next(1, 1_000_001) },
                new Coupon("AMOUNT", LanguageMap.Of("An amount")) { Minor = _random.Next(1, 20_000) },
            ],
        };

    /// <summary>A cart, most of whose answers fit.</summary>
    public CartContent Cart(RegisterPlan plan)
    {
        var lines = Enumerable
            .Range(0, _random.Next(1, 4))
            .Select(_ =>
            {
                var product = Pick("LABEL", "TREE", "POT/POT-S", "POT/POT-L", "WALK", "WALK");
                var each = plan.AsksPerUnit(Fixture.Products.Find(product.Split('/')[0])!);
                var line = Fixture.Line(product, !each && Chance(3) ? _random.Next(1, 60) : _random.Next(1, 5)) with
                {
                    Answers = Answers(plan.LineFields, plan),
                };
                return each
                    ? line with
                    {
                        Units =
                        [
                            .. Enumerable
                                .Range(0, line.Quantity)
                                .Select(u => new CartUnit("u" + u.ToString(CultureInfo.InvariantCulture), Answers(plan.UnitFields, plan))),
                        ],
                    }
                    : line;
            });
        return Fixture.Of([.. lines]) with
        {
            Answers = AnswerSet.Of(Fixture.Shopper.Concat(Answers(plan.OrderFields.Where(static f => !f.Field.BuiltIn), plan))),
            Group = Pick("", "member", "trade"),
            Coupon = Chance(3) ? Pick("SHARE", "AMOUNT") : "",
        };
    }

    // Most are answered, some emptied, others left as they are proposed.
    private AnswerSet Answers(IEnumerable<PlannedField> fields, RegisterPlan plan) =>
        Fixture.Answers([
            .. fields
                .Where(f => f.Section?.Opening.IsEmpty != true && f.Field.Type != "worked_out" && !Chance(4))
                .Select(f =>
                    (
                        f.Field.Key,
                        f.Section is not null ? !Chance(4)
                        : Chance(8) ? ""
                        : Answer(f.Field.Type)
                    )
                ),
        ]);

    private object Answer(string type, bool some = false) =>
        type switch
        {
            "number" => _random.Next(-200, 6000) / 100m,
            "amount_of_money" => _hasCents ? _random.Next(0, 9000) / 100m : (decimal)_random.Next(0, 90),
            "yes_no" => Chance(2),
            "one_of" => Pick(Choices),
            "several_of" => Choices.Where(_ => Chance(2)).DefaultIfEmpty(some ? "ash" : null).OfType<string>().ToArray(),
            "how_many_of_each" => Choices
                .Where(_ => Chance(2))
                .DefaultIfEmpty(some ? "ash" : null)
                .OfType<string>()
                .ToDictionary(static c => c, _ => _random.Next(1, 8).ToString(CultureInfo.InvariantCulture), StringComparer.Ordinal),
            _ => string.Concat(
                Enumerable
                    .Range(0, _random.Next(some ? 1 : 0, 40))
                    .Select(_ => Pick(type == "line_text" ? Letters.Where(static l => l != "\n").ToArray() : Letters))
            ),
        };

    private T Pick<T>(params T[] of) => of[_random.Next(of.Length)];

    private bool Chance(int of) => _random.Next(of) == 0;

    private bool Chance(int times, int of) => _random.Next(of) >= times;
}
