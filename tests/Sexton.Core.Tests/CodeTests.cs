using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Catalogue;
using Sexton.Core.Checks;
using Sexton.Core.Codes;
using Sexton.Core.Components;
using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Register;
using Sexton.Core.Register.Edits;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>Item codes, components and stock: how codes are put together, which cannot be, what is used up and what is left.</summary>
public sealed class CodeTests
{
    private static readonly FieldCode Own = new();

    [Theory]
    // what is said for all and for the back office, how lines leave for it and for the maker, what the difference tells
    [InlineData(null, null, LineLeaving.Together, LineLeaving.Together, "")]
    [InlineData("'beside'", null, LineLeaving.Beside, LineLeaving.Beside, "lines leave with their components beside them")]
    [InlineData("'beside'", "'together'", LineLeaving.Together, LineLeaving.Beside, "lines leave with their components beside them")]
    [InlineData(null, "'instead'", LineLeaving.Instead, LineLeaving.Together, "lines leave for the back office as their components")]
    [InlineData("'instead'", "null", LineLeaving.Instead, LineLeaving.Instead, "lines leave as their components")]
    public void How_lines_leave_is_said_for_the_shop_and_overruled(
        string? shop,
        string? office,
        LineLeaving toOffice,
        LineLeaving toMaker,
        string told
    )
    {
        var rules = CodeRules.None;
        foreach (var (path, json) in new[] { ("leaves", shop), ("leaves.back_office", office) })
        {
            rules = json is null
                ? rules
                : CodeEdit.Apply(rules, path, JsonSerializer.Deserialize<JsonElement>(json.Replace('\'', '"')), Fixture.Destinations);
        }

        rules.LeavingFor("back_office").ShouldBe(toOffice);
        rules.LeavingFor("maker").ShouldBe(toMaker);
        string.Join(
                ", ",
                RegisterDifference
                    .Between(
                        Fixture.Register(),
                        Fixture.Register() with
                        {
                            Codes = rules,
                        },
                        FieldTypes.Standard,
                        TestKind.All,
                        Fixture.Products
                    )
                    .SelectMany(static c => c.Clauses)
                    .Select(static c => c.Lead + c.After)
            )
            .ShouldStartWith(told);
    }

    [Theory]
    // the shop's rule, the product's rule, face and year, the code
    [InlineData("{}", "{}", "punched", 1987, "LABEL.EN.1987")]
    [InlineData("{}", "{}", "cast", 1987, "LABEL.1987")]
    [InlineData("{}", "{}", "punched", 0, "LABEL.EN")]
    [InlineData("{}", "{}", "", 0, "LABEL")]
    [InlineData("{'when_empty':'XX'}", "{}", "", 0, "LABEL.XX.XX")]
    [InlineData("{'separator':'.','case':'lower'}", "{}", "punched", 1987, "label.en.1987")]
    [InlineData("{'separator':'.'}", "{'separator':''}", "punched", 1987, "LABELEN1987")]
    [InlineData("{'case':'lower'}", "{'case':'upper'}", "punched", 0, "LABEL.EN")]
    [InlineData("{'order':['year','face']}", "{}", "punched", 1987, "LABEL.1987.EN")]
    [InlineData("{'order':['year','goods']}", "{}", "punched", 1987, "1987.LABEL.EN")]
    [InlineData("{'order':['year','goods']}", "{'order':['goods','face']}", "punched", 1987, "LABEL.EN.1987")]
    [InlineData("{'order':['gone','face']}", "{}", "punched", 1987, "LABEL.EN.1987")]
    public void A_code_is_put_together_by_the_nearest_rule(string shop, string product, string face, int year, string code) =>
        Code(shop, product, Own, face, year).ShouldBe(code);

    [Theory]
    // the rule of the field "face", the code; the shop says "." in capitals and "0" for an empty part
    [InlineData("{'separator':'/'}", "punched", "LABEL/EN.1987")]
    [InlineData("{'case':'lower'}", "punched", "LABEL.en.1987")]
    [InlineData("{'when_empty':''}", "", "LABEL.1987")]
    [InlineData("{'when_empty':'none'}", "", "LABEL.NONE.1987")]
    [InlineData("{}", "", "LABEL.0.1987")]
    public void A_field_has_a_rule_of_its_own(string rule, string face, string code) =>
        Code("{'separator':'.','case':'upper','when_empty':'0'}", "{}", new FieldCode { Rule = Rule(rule) }, face, 1987).ShouldBe(code);

    [Fact]
    public void What_stands_for_an_empty_part_stands_only_where_the_product_asks()
    {
        var field = Fixture.Ask("face", "one_of", ("choices", Choices("cast", "C"))) with
        {
            Code = new FieldCode { Rule = Rule("{'when_empty':'NO'}") },
            AskedOf = ProductScope.Only("LABEL"),
        };
        var evaluation = Fixture.Evaluate(Fixture.Of(Fixture.Line("LABEL"), Fixture.Line("TREE")), field);
        Enumerable.Range(0, 2).Select(evaluation.ItemCodeOf).ShouldBe(["LABEL.NO", "TREE"]);
    }

    [Fact]
    public void A_variant_yes_several_picks_and_a_fixed_part_stand_in_it()
    {
        var evaluation = Fixture.Evaluate(
            Fixture.Of(
                Fixture.Line("POT/POT-L", 1, ("drilled", true), ("extras", new[] { "saucer", "feet" }), ("name", "Zoë")),
                Fixture.Line("POT/POT-S", 1, ("drilled", false))
            ),
            Fixture.Ask("drilled", "yes_no") with
            {
                Code = new FieldCode { Part = "D" },
            },
            Fixture.Ask("extras", "several_of", ("choices", Choices("saucer", "S", "feet", "F"))) with
            {
                Code = Own,
            },
            Fixture.Ask("name_on_it", "line_text") with
            {
                Code = new FieldCode { Part = "N" },
            }
        );
        Enumerable.Range(0, 2).Select(evaluation.ItemCodeOf).ShouldBe(["POT-L.D.SF", "POT-S"]);
        Fixture.Order(evaluation).Lines.Select(l => l.ItemCode).ShouldBe(["POT-L.D.SF", "POT-S"]);
    }

    [Theory]
    // parts of the choices, the longest, the problem and what it says
    [InlineData(
        "A",
        "A",
        40,
        "code_shared",
        "“Zinc label” with “The face: A cast” and “Zinc label” with “The face: A punched” would both be LABEL.A"
    )]
    [InlineData("A", "", 40, "code_shared", "“Zinc label” and “Zinc label” with “The face: A punched” would both be LABEL")]
    [InlineData(
        "A",
        "BBBBBB",
        11,
        "code_too_long",
        "LABEL.BBBBBB, the code of “Zinc label” with “The face: A punched”, has 12 characters, and 11 are allowed"
    )]
    [InlineData(
        "A",
        "B C",
        40,
        "code_refused",
        "LABEL.B C, the code of “Zinc label” with “The face: A punched”, has the character “ ”, and the back office refuses it"
    )]
    [InlineData("A", "B", 40, null, "")]
    public void A_code_that_cannot_be_is_a_problem_that_names_both(string cast, string punched, int longest, string? problem, string says)
    {
        var field = Fixture.Ask("face", "one_of", ("choices", Choices("cast", cast, "punched", punched))) with
        {
            Code = Own,
            AskedOf = ProductScope.Only("LABEL"),
            GoesTo = ["back_office"],
        };
        var register = Fixture.Register(field) with { Codes = new CodeRules { Shop = new CodeRule { Longest = longest } } };
        var found = DraftChecks.Run(RegisterPlan.Compile(register, FieldTypes.Standard, TestKind.All), Fixture.Products);
        found.Select(p => (p.Code, p.Field, p.Setting)).ShouldBe(problem is null ? [] : [(problem, "face", "code")]);
        found.Select(p => p.Sentence).ShouldAllBe(s => s.Contains(says));
    }

    // The picks of each line, and what the cart is told about which line.
    [Theory]
    [InlineData("e f", null, null)]
    [InlineData("e f g h i j k l m n o p", null, "code_refused a")]
    [InlineData("b", null, "code_shared a")]
    [InlineData("q", null, "code_shared a")]
    [InlineData("ef", "e f", "code_shared b")]
    [InlineData("e f", "e f", null)]
    public void A_code_that_cannot_be_used_is_refused_in_the_cart(string picks, string? others, string? told)
    {
        var products = new ProductIndex(
            [new("A", LanguageMap.Of("Ash"), ["x"], 1), new("A.B", LanguageMap.Of("Beech"), ["x"], 1)],
            Fixture.Products.Groups,
            "EUR",
            "IE"
        );
        var choices = Choices([
            .. "efghijklmnop".SelectMany(c => new[] { c.ToString(), c.ToString().ToUpperInvariant() + "23" }),
            "b",
            "B",
            "q",
            "b",
            "ef",
            "E23F23",
        ]);
        var field = Fixture.Ask("kinds", "several_of", ("choices", choices)) with { Code = Own, AskedOf = ProductScope.Only("A") };
        var cart = new CartContent
        {
            Lines =
            [
                .. new[] { ("a", picks), ("b", others) }
                    .Where(static l => l.Item2 is not null)
                    .Select(l => new CartLine(
                        l.Item1,
                        "A",
                        1,
                        AnswerSet.Of([KeyValuePair.Create("kinds", AnswerValue.Of([.. l.Item2!.Split(' ')]))])
                    )),
            ],
        };
        var problems = Evaluation
            .Of(RegisterPlan.Compile(Fixture.Register(field), FieldTypes.Standard, TestKind.All).Plan, products, cart, Fixture.Today)
            .Problems;
        problems
            .Where(static p => p.LineId is not null)
            .Select(static p => $"{p.Refusal.Key} {p.LineId}")
            .ShouldBe(told is null ? [] : [told]);
    }

    // What is answered in two lines of one product, whose codes are the same: meant to be where the answer contributes what any would.
    [Theory]
    [InlineData("line_text", "Rosa", "Rosa alba")]
    [InlineData("yes_no", false, null)]
    public void What_contributes_the_same_by_its_rule_is_one_thing_in_the_cart(string type, object one, object? other)
    {
        var field = Fixture.Ask("said", type) with { Code = new FieldCode { Part = "W" } };
        var lines = new[] { one, other }.Select(a => a is null ? Fixture.Line("LABEL") : Fixture.Line("LABEL", 1, ("said", a))).ToArray();
        var evaluation = Fixture.Evaluate(Fixture.Of(lines), field);
        evaluation.Problems.ShouldBeEmpty();
        evaluation.ItemCodeOf(0).ShouldBe(evaluation.ItemCodeOf(1));
    }

    [Fact]
    public void Two_products_that_would_share_a_code_are_named()
    {
        var products = new ProductIndex(
            [new("A", LanguageMap.Of("Ash"), ["x"], 1), new("A.B", LanguageMap.Of("Beech"), ["x"], 1)],
            Fixture.Products.Groups,
            "EUR",
            "IE"
        );
        var field = Fixture.Ask("face", "one_of", ("choices", Choices("b", "B"))) with
        {
            Code = Own,
            AskedOf = ProductScope.Only("A"),
            GoesTo = ["back_office"],
        };
        DraftChecks
            .Run(RegisterPlan.Compile(Fixture.Register(field), FieldTypes.Standard, TestKind.All), products)
            .Single()
            .Sentence.ShouldBe("“Ash” with “The face: A b” and “Beech” would both be A.B. Give one of them another part.");
    }

    [Theory]
    [InlineData("line_text", "line", "", "can be anything")]
    [InlineData("line_text", "line", "W", null)]
    [InlineData("amount_of_money", "line", "", "can be anything")]
    [InlineData("number", "line", "", null)]
    [InlineData("number", "unit", "", "Only what is answered once per line")]
    [InlineData("number", "line", "ABCDEFGHIJKLMNOPQRSTU", "at most 20")]
    public void What_cannot_stand_in_a_code_is_named(string type, string level, string part, string? says)
    {
        var field = Fixture.Ask("a", type) with
        {
            Level = Enum.Parse<Level>(level, ignoreCase: true),
            Code = new FieldCode { Part = part },
        };
        var problems = RegisterPlan.Compile(Fixture.Register(field), FieldTypes.Standard, TestKind.All).Problems;
        problems.Select(p => p.Setting).ShouldBe(says is null ? [] : ["code"]);
        problems.ShouldAllBe(p => p.Sentence.Contains(says!));
    }

    [Theory]
    // use, what is used up beside the goods: 3 trees with 2.2 metres
    [InlineData("{'item':'TIE'}", "TIE 3")]
    [InlineData("{'item':'TIE','quantity':2}", "TIE 6")]
    [InlineData("{'item':'TIE','per':'line'}", "TIE 1")]
    [InlineData("{'item':'TIE','per':'order'}", "TIE 1")]
    [InlineData("{'item':'TIE','by':'count'}", "TIE 9")]
    [InlineData("{'item':'TIE','by':'count','quantity':2,'per':'line'}", "TIE 6")]
    [InlineData("{'quantity':1}", "metres 3")]
    [InlineData("{'item':'TIE','when':{'of':'quantity', 'over': 3}}", "")]
    public void Components_are_used_by_the_piece_the_line_or_the_order(string use, string expected)
    {
        var field = Fixture.Ask("metres", "number", ("decimals", 1)) with { Uses = [Use(use)] };
        var evaluation = Evaluation.Of(Fixture.Plan(field), Shop(), Fixture.Of(Fixture.Line("TREE", 3, ("metres", 2.2m))), Fixture.Today);
        string.Join('|', evaluation.Uses.Skip(1).Select(u => $"{u.Item} {u.Quantity}")).ShouldBe(expected);
        (evaluation.Uses[0].Item, evaluation.Uses[0].Quantity, evaluation.Uses[0].Field).ShouldBe(("TREE", 3L, null));
    }

    // What is used once over several places is the most that any of them wants (decision 18).
    [Theory]
    [InlineData(2, 5, 5)]
    [InlineData(5, 2, 5)]
    [InlineData(3, 3, 3)]
    public void What_is_used_once_for_the_order_is_the_most_that_a_line_wants(int first, int second, int used)
    {
        var field = Fixture.Ask("ties", "number") with { Uses = [Use("{'item':'TIE','by':'count','per':'order'}")] };
        var cart = Fixture.Of(Fixture.Line("TREE", 2, ("ties", first)), Fixture.Line("TALL", 1, ("ties", second)));
        Evaluation
            .Of(Fixture.Plan(field), Shop(), cart, Fixture.Today)
            .Uses.Where(static u => u.Item == "TIE")
            .Select(static u => (u.Quantity, u.Place.Line))
            .ShouldBe([((long)used, -1)]);
    }

    [Fact]
    public void Units_use_for_themselves_and_choices_what_they_name()
    {
        var line = Fixture.Line("WALK", 3) with { Units = [Unit("a", "pole"), Unit("b", "none"), Unit("c", "pole")] };
        var field = Fixture.AskUnit("lend", "one_of", ("choices", Fixture.Choices("pole", "none"))) with
        {
            Uses = [Use("{'choice':'pole'}"), Use("{'choice':'pole','item':'TIE','per':'line'}")],
        };
        var evaluation = Evaluation.Of(Fixture.Plan(field), Shop(), Fixture.Of(line), Fixture.Today);
        evaluation
            .Uses.Skip(1)
            .Select(u => $"{u.Item} {u.Quantity} {u.Place.Unit}")
            .ShouldBe(["lend/pole 1 0", "lend/pole 1 2", "TIE 1 -1"]);
    }

    [Theory]
    [InlineData("ABC-12.X", null)]
    [InlineData("ABC-12.XY", "has more than 8 characters")]
    [InlineData("abc/1", null)]
    [InlineData("ABC_1", "has the character “_”")]
    [InlineData("É", "has the character “É”")]
    [InlineData("", null)]
    public void A_system_takes_codes_of_so_many_characters_of_some_kinds(string code, string? wrong) =>
        new ItemCodeLimits(8, ".-/").Wrong(code).ShouldBe(wrong);

    [Fact]
    public void A_component_can_bring_its_weight_and_its_price()
    {
        var field = Fixture.Ask("ties", "number") with
        {
            Uses = [Use("{'item':'TIE','by':'count','takes_weight':true,'takes_price':true}")],
        };
        var face = Fixture.Ask(
            "face",
            "one_of",
            (
                "choices",
                new[]
                {
                    new Choice
                    {
                        Key = "oak",
                        Label = LanguageMap.Of("Oak"),
                        WeightGrams = 500,
                    },
                }
            )
        );
        var evaluation = Evaluation.Of(
            Fixture.Plan(field, face),
            Shop(),
            Fixture.Of(Fixture.Line("TREE", 2, ("ties", 3), ("face", "oak"))),
            Fixture.Today
        );
        PricingTests.Rows(evaluation).ShouldBe("Quince 2×8950=17900|Tree tie 6×120=720");
        evaluation.WeightGrams.ShouldBe((2 * 9000) + (6 * 25) + (2 * 500));
    }

    [Theory]
    // left of trees and ties, the problems: the cart has 3 trees, each with 2 ties
    [InlineData(3, 6, "")]
    [InlineData(2, 6, "few_left@l1/: Only 2 are left of “Quince”. Choose fewer.")]
    [InlineData(0, 6, "sold_out@l1/: “Quince” is sold out. Choose something else.")]
    [InlineData(3, 5, "few_left@l1/tie: Only 5 are left of “Tree tie”. Choose fewer.")]
    [InlineData(3, 0, "sold_out@l1/tie: “Tree tie” is sold out. Choose something else.")]
    [InlineData(-1, -1, "")]
    public void What_is_not_there_is_told_where_it_is_chosen(int trees, int ties, string expected)
    {
        var levels = new Dictionary<string, long>(StringComparer.Ordinal);
        if (trees >= 0)
        {
            (levels["TREE"], levels["TIE"]) = (trees, ties);
        }

        var field = Fixture.Ask("tie", "yes_no") with { Uses = [Use("{'item':'TIE','quantity':2}")] };
        var evaluation = Evaluation.Of(
            Fixture.Plan(field),
            Shop(),
            Fixture.Of(Fixture.Line("TREE", 3, ("tie", true))),
            Fixture.Today,
            new StockLevels(levels)
        );
        string.Join('|', evaluation.Problems.Select(p => $"{p.Refusal.Key}@{p.LineId}/{p.Field?.Key}: {p.SentenceIn(Wording.Usual, "en")}"))
            .ShouldBe(expected);
    }

    [Fact]
    public void All_lines_together_are_counted_and_the_shortage_is_told_once()
    {
        var cart = Fixture.Of(Fixture.Line("TREE", 2), Fixture.Line("LABEL"), Fixture.Line("TREE", 2, ("tie", false)));
        var evaluation = Evaluation.Of(Fixture.Plan(), Shop(), cart, Fixture.Today, new StockLevels([new("TREE", 3)]));
        evaluation.Problems.Select(p => p.LineId).ShouldBe(["l3"]);
    }

    [Theory]
    [InlineData("{'item':'GONE'}", "uses_unknown")]
    [InlineData("{'item':'TIE','quantity':0}", "cannot_be_compiled")]
    [InlineData("{'item':'TIE','choice':'oak'}", "cannot_be_compiled")]
    [InlineData("{'item':'TIE','by':'letter'}", "cannot_be_compiled")]
    [InlineData("{'item':'TIE','by':'count'}", "cannot_be_compiled")]
    [InlineData("{'item':'TIE'}", null)]
    public void A_component_that_cannot_be_is_named(string use, string? code)
    {
        var field = Fixture.Ask("tie", "yes_no") with { Uses = [Use(use)], GoesTo = ["back_office"] };
        DraftChecks
            .Run(RegisterPlan.Compile(Fixture.Register(field), FieldTypes.Standard, TestKind.All), Shop())
            .Select(p => p.Code)
            .ShouldBe(code is null ? [] : [code]);
    }

    [Theory]
    // what is changed of a choice, and how the difference says it
    [InlineData("'code':'X'", "“A cast” (code X)")]
    [InlineData("'weight_grams':40", "“A cast” (40 g)")]
    [InlineData("'picture':'a.svg','colour':'#aabbcc','excludes':true", "“A cast” (a.svg, #aabbcc, excludes the others)")]
    [InlineData("'when':{'of':'quantity', 'over': 2}", "“A cast” when the quantity is over 2")]
    [InlineData("'label':{'en':'A cast','de':'Guss'}", "“A cast” / de: “Guss”")]
    [InlineData("'picture_words':{'en':'A hand'}", "differs in a detail")]
    public void Whatever_changes_of_a_choice_can_be_published(string change, string said)
    {
        var before = Fixture.Ask("face", "one_of", ("choices", Fixture.Choices("cast")));
        var changed = JsonSerializer.Deserialize<JsonElement>($"[{{'key':'cast','label':{{'en':'A cast'}},{change}}}]".Replace('\'', '"'));
        var after = before with { Settings = before.Settings.SetItem("choices", changed) };
        var clause = RegisterDifference
            .Between(Fixture.Register(before), Fixture.Register(after), FieldTypes.Standard, TestKind.All, Fixture.Products)
            .Single()
            .Clauses.Single();
        $"{clause.Lead}{clause.After}".ShouldEndWith(said);
    }

    private static string Code(string shop, string product, FieldCode face, string picked, int year)
    {
        var register = Fixture.Register(
            Fixture.Ask("face", "one_of", ("choices", Choices("cast", "", "punched", "EN"))) with
            {
                Code = face,
            },
            Fixture.Ask("year", "number") with
            {
                Code = Own,
            }
        );
        var plan = Fixture.Plan(
            register with
            {
                Codes = new CodeRules
                {
                    Shop = Rule(shop),
                    Products = ImmutableSortedDictionary<string, CodeRule>.Empty.Add("LABEL", Rule(product)),
                },
            }
        );
        var answers = new List<(string, object)>();
        if (picked.Length > 0)
        {
            answers.Add(("face", picked));
        }

        if (year > 0)
        {
            answers.Add(("year", year));
        }

        return Fixture.Evaluate(plan, Fixture.Of(Fixture.Line("LABEL", 1, [.. answers]))).ItemCodeOf(0);
    }

    private static Choice[] Choices(params string[] keysAndCodes) =>
        [
            .. keysAndCodes
                .Chunk(2)
                .Select(static c => new Choice
                {
                    Key = c[0],
                    Label = LanguageMap.Of("A " + c[0]),
                    Code = c[1],
                }),
        ];

    private static CodeRule Rule(string json) => JsonSerializer.Deserialize<CodeRule>(json.Replace('\'', '"'), DocumentJson.Options)!;

    private static ComponentUsage Use(string json) =>
        JsonSerializer.Deserialize<ComponentUsage>(json.Replace('\'', '"'), DocumentJson.Options)!;

    private static CartUnit Unit(string id, string pick) => new(id, Fixture.Answers(("lend", pick)));

    private static ProductIndex Shop() =>
        new(
            Fixture
                .Products.All.Select(static p => p.Code == "TREE" ? p with { WeightGrams = 9000 } : p)
                .Append(new Product("TIE", LanguageMap.Of("Tree tie"), ["Ties"], 120) { WeightGrams = 25 }),
            Fixture.Products.Groups,
            "EUR",
            "IE"
        );
}
