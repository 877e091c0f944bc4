using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using Sexton.Core.Asking;
using Sexton.Core.Catalogue;
using Sexton.Core.Checks;
using Sexton.Core.Codes;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Register;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>Which item codes two things would share: case by case, and against a listing of all that small registers can come to.</summary>
public sealed class CodeClashTests
{
    private static readonly FieldCode Own = new();

    // A name, the codes of the products, the rule of the shop, the fields, and what is said; null for nothing. A field is
    // "key kind: choices as key=code, or limits; words for required, within a section, and conditions".
    [Theory]
    [InlineData(
        "two picks spell a third",
        "A",
        "{}",
        "k several_of e=E f=F ef=EF",
        "“A” with “The k: e,f” and “A” with “The k: ef” would both be A.EF"
    )]
    [InlineData("two picks spell a third, told apart by the order", "A", "{}", "k several_of e=E f=F fe=FE", null)]
    [InlineData("at most one pick", "A", "{}", "k several_of most=1 e=E f=F ef=EF", null)]
    [InlineData("one takes the others away", "A", "{}", "k several_of e=E! f=F ef=EF", null)]
    [InlineData("one of a bulb and seven of it", "A", "{}", "k how_many_of_each most=9 t=T c=C", null)]
    [InlineData(
        "seven of a bulb spell another",
        "A",
        "{}",
        "k how_many_of_each most=9 t=T c=7T",
        "“A” with “The k: 7 × t” and “A” with “The k: 1 × c” would both be A.7T"
    )]
    [InlineData("seven of a bulb, where six are the most", "A", "{}", "k how_many_of_each most=6 t=T c=7T", null)]
    [InlineData("more bulbs than can be listed", "A", "{}", "k how_many_of_each t=T c=C i=41TC", "would both be A.41TC")]
    [InlineData(
        "two numbers without a separator",
        "A",
        "{'separator':''}",
        "m number! least=1 most=99|n number! least=1 most=99",
        "would both be A111"
    )]
    [InlineData(
        "two numbers without a separator, of one length",
        "A",
        "{'separator':''}",
        "m number! least=10 most=99|n number! least=10 most=99",
        null
    )]
    [InlineData("two numbers with a separator", "A", "{'separator':'-'}", "m number! least=1 most=99|n number! least=1 most=99", null)]
    [InlineData(
        "a number below nothing takes the separator for its sign",
        "A",
        "{'separator':'-'}",
        "m number least=-5 most=9|n number! least=-5 most=9",
        null
    )]
    [InlineData(
        "what stands for nothing is an answer",
        "A",
        "{'when_empty':'5'}",
        "n number least=1 most=9",
        "“A” and “A” with “The n: 5” would both be A.5"
    )]
    [InlineData("what stands for nothing cannot be an answer", "A", "{'when_empty':'5'}", "n number least=6 most=9", null)]
    [InlineData("what stands for nothing is off the steps", "A", "{'when_empty':'5'}", "n number least=0 most=10 step=2", null)]
    [InlineData("a decimal is read as it is written", "A", "{'when_empty':'1.50'}", "n number decimals=2 least=0 most=10", null)]
    [InlineData(
        "a decimal without its last nought",
        "A",
        "{'when_empty':'1.5'}",
        "n number decimals=2 least=1 most=2",
        "would both be A.1.5"
    )]
    [InlineData("a decimal over the greatest", "A", "{'when_empty':'2.01'}", "n number decimals=2 least=1 most=2", null)]
    [InlineData("a decimal under the least", "A", "{'when_empty':'0.99'}", "n number decimals=2 least=1 most=2", null)]
    [InlineData("the parts of decimals", "A", "{}", "m number! decimals=1 least=0 most=9|n number least=0 most=9", "would both be A.0.1")]
    [InlineData(
        "a number makes another product",
        "N-1 N-1-5",
        "{'separator':'-'}",
        "n number of=N-1 least=1 most=9",
        "“N-1” with “The n: 5” and “N-1-5” would both be N-1-5"
    )]
    [InlineData("a number makes another product with its answer", "N-1 N-1-5", "{'separator':'-'}", "n number! least=1 most=9", null)]
    [InlineData(
        "a day makes another product",
        "N N.2027-02-28",
        "{}",
        "d date of=N",
        "“N” with “The d: 28 February 2027” and “N.2027-02-28” would both be"
    )]
    [InlineData("there is no such day", "N N.2027-02-30", "{}", "d date of=N", null)]
    [InlineData(
        "required, of one group only",
        "A A.X",
        "{}",
        "k one_of! of=A groups=trade x=Y|l one_of of=A z=X",
        "“A” with “The l: z” and “A.X” would both be A.X"
    )]
    [InlineData(
        "required of one group only, without a separator for those who are not asked",
        "A",
        "{}",
        "k one_of! groups=trade x=X|l one_of x=X",
        "“A” with “The l: x” and “A” with “The k: x” would both be A.X"
    )]
    [InlineData("required of all", "A", "{}", "k one_of! x=X|l one_of x=X", null)]
    [InlineData(
        "a worked-out number and a choice",
        "A",
        "{}",
        "w worked_out|k one_of x=12",
        "“A” with “The k: x” and “A” with “The w: 12” would both be A.12"
    )]
    [InlineData("a worked-out number with a text for nothing", "A", "{'when_empty':'12'}", "w worked_out", "would both be A.12")]
    [InlineData(
        "the case of letters",
        "A",
        "{}",
        "k one_of x=x y=X",
        "would be A.x and “A” with “The k: y” would be A.X, which differ only in the case of their letters"
    )]
    [InlineData("the case of the rule", "A", "{'case':'upper'}", "k one_of x=x y=X", "would both be A.X")]
    [InlineData(
        "ten lists, and one clash deep in",
        "A",
        "{}",
        "a one_of! x0=0 x1=1 x2=2 x3=3 x4=4 x5=5|b one_of! x0=0 x1=1 x2=2 x3=3 x4=4 x5=5|c one_of! x0=0 x1=1 x2=2 x3=3 x4=4 x5=5|d one_of! x0=0 x1=1 x2=2 x3=3 x4=4 x5=5|e one_of! x0=0 x1=1 x2=2 x3=3 x4=4 x5=5|f one_of! x0=0 x1=1 x2=2 x3=3 x4=4 x5=5|h one_of! x0=0 x1=1 x2=2 x3=3 x4=4 x5=5|i one_of! x0=0 x1=1 x2=2 x3=3 x4=4 x5=5|j one_of! x0=0 x1=1 x2=2 x3=3 x4=4 x5=5|n one_of! x0=0 x1=1 x2=2 x3=3 x4=4 x5=4",
        "The n: x4” and “A” with"
    )]
    [InlineData("a list of which nothing need be answered", "A", "{}", "k one_of x=X y=", "“A” and “A” with “The k: y” would both be A")]
    [InlineData("yes, and nothing", "A", "{}", "k yes_no part=Y", null)]
    [InlineData("whatever is typed", "A", "{}", "k line_text part=W", null)]
    [InlineData("the fields of one section come together", "A", "{}", "k one_of! in=s s=S r=R|l one_of! in=s s=S m=M", null)]
    [InlineData("the fields of two sections do not", "A", "{}", "k one_of! in=s s=S r=R|l one_of! in=t s=S m=M", "would both be A.S")]
    [InlineData("one in the section need not be answered", "A", "{}", "k one_of in=s s=S r=R|l one_of! in=s s=S m=M", null)]
    [InlineData("both in the section need not be answered", "A", "{}", "k one_of in=s s=S r=R|l one_of in=s s=S m=M", "would both be A.S")]
    [InlineData("under one condition", "A", "{}", "k one_of! when=country s=S|l one_of! when=country s=S", null)]
    [InlineData("under two conditions", "A", "{}", "k one_of! when=country s=S|l one_of! when=group s=S", "would both be A.S")]
    [InlineData(
        "by another answer in the code",
        "A",
        "{}",
        "w one_of! oak=O ash=A|k one_of! when=oak s=S m=M|l one_of! when=ash s=S m=M",
        null
    )]
    [InlineData(
        "by another answer that need not be given",
        "A",
        "{}",
        "w one_of oak=O ash=A|k one_of! when=oak s=S m=M|l one_of! when=ash s=S m=M",
        null
    )]
    [InlineData(
        "by another answer, and one of the two not always",
        "A",
        "{}",
        "w one_of! oak=O ash=A|k one_of! when=oak s=S m=M|l one_of s=S m=M",
        null
    )]
    [InlineData(
        "by another answer, both not always",
        "A",
        "{}",
        "w one_of! oak=O ash=A|k one_of when=oak s=S m=M|l one_of s=S m=M",
        "with “The w: oak” and “The l: s” and “A” with “The w: oak” and “The k: s” would both be A.O.S"
    )]
    [InlineData("by a yes that is in the code", "A", "{}", "y yes_no part=Y|k one_of! when=yes s=S|l one_of! when=no s=S", null)]
    [InlineData(
        "by a yes that is not in the code",
        "A",
        "{}",
        "y yes_no|k one_of! when=yes s=S|l one_of! when=no s=S",
        "would both be A.S"
    )]
    [InlineData("choices offered by another answer", "A", "{}", "w one_of! oak=O ash=A|k one_of! s=S@oak t=S@ash", null)]
    [InlineData("by the product", "A B", "{}", "k one_of! when=product s=S|l one_of! when=other s=S", null)]
    public void What_two_things_would_share_is_named(string name, string products, string rule, string fields, string? says)
    {
        var problems = DraftChecks
            .Run(RegisterPlan.Compile(Register(rule, fields), FieldTypes.Standard, TestKind.All), Shop(products))
            .Where(static p => p.Setting == "code")
            .ToList();
        problems
            .Select(static p => p.Code)
            .Distinct()
            .ShouldBe(says is null ? [] : ["code_shared"], name + ": " + string.Join('\n', problems.Select(static p => p.Sentence)));
        string.Join('\n', problems.Select(static p => p.Sentence))
            .Contains(says ?? "", StringComparison.Ordinal)
            .ShouldBeTrue(name + ": " + string.Join('\n', problems.Select(static p => p.Sentence)));
    }

    // The rule, the fields, and the longest code that is told.
    [Theory]
    [InlineData("{}", "k several_of a=ABCDEFGH b=BCDEFGH c=CDEFGH d=DEFGH e=EFGH", "P.ABCDEFGHBCDEFGHCDEFGHDEFGHEFGH")]
    [InlineData("{}", "k several_of most=4 a=ABCDEFGH b=BCDEFGH c=CDEFGH d=DEFGH e=EFGH", null)]
    [InlineData(
        "{}",
        "k several_of most=3 a=ABCDEFGHIJ b=BCDEFGHI c=CDEFGHI d=DEFGHIJKL e=E f=FGHIJKLMNO",
        "P.ABCDEFGHIJDEFGHIJKLFGHIJKLMNO"
    )]
    [InlineData("{'longest':17}", "n number decimals=6", "P.-100000000000000.000001")]
    [InlineData("{'longest':11}", "d date", "P.9999-12-31")]
    [InlineData("{'longest':4}", "k how_many_of_each most=10 t=T", "P.10T")]
    [InlineData("{'longest':6}", "k how_many_of_each most=13 t=T c=C", "P.10T3C")]
    public void The_longest_code_is_found(string rule, string fields, string? longest)
    {
        var problems = DraftChecks
            .Run(RegisterPlan.Compile(Register(rule, fields), FieldTypes.Standard, TestKind.All), Shop("P"))
            .Where(static p => p.Code is "code_too_long" or "code_refused")
            .ToList();
        if (longest is null)
        {
            problems.ShouldBeEmpty();
        }
        else
        {
            problems.Single().Sentence.Split(',')[0].Length.ShouldBe(longest.Length, problems.Single().Sentence);
        }
    }

    [Theory]
    [InlineData("k several_of a=A b=B_", "A.B_, the code of “A” with “The k: b”, has the character “_”")]
    [InlineData("k several_of a=A b=B|l one_of x=X y=Ü", "A.Ü, the code of “A” with “The l: y”, has the character “Ü”")]
    [InlineData("k line_text part=a*", "A.a*, the code of “A” with “The k: ")]
    public void A_character_that_is_refused_is_found_wherever_it_is(string fields, string says) =>
        DraftChecks
            .Run(RegisterPlan.Compile(Register("{}", fields), FieldTypes.Standard, TestKind.All), Shop("A"))
            .Single(static p => p.Setting == "code")
            .Sentence.ShouldStartWith(says);

    [Fact]
    public void What_is_not_compared_is_said_and_can_be_meant()
    {
        // Numbers of which each can end where the next begins: more than can be looked through.
        var fields = string.Join('|', "abcdefgh".Select(static c => $"{c} number decimals=6"));
        var problem = DraftChecks
            .Run(RegisterPlan.Compile(Register("{'separator':'','longest':400}", fields), FieldTypes.Standard, TestKind.All), Shop("A"))
            .Single(static p => p.Code == "codes_not_compared");
        problem.Sentence.ShouldStartWith("More codes can come up than are compared: of what “The a”, “The b”");
        problem.Basis.ShouldNotBeNull();
    }

    // Small registers, drawn; every cart that they allow is made and evaluated, and its codes compared one by one.
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    public void All_clashes_of_small_registers_are_found_and_no_others(int seed)
    {
        var random = new Random(seed);
        var clashes = 0;
        for (var round = 0; round < 120; round++)
        {
            var fields = Enumerable.Range(0, random.Next(1, 4)).Select(i => Drawn(random, "klm"[i])).ToList();
            var rule =
                $"{{'separator':'{Pick(random, "", "", ".", "1")}','when_empty':'{Pick(random, "", "", "A", "1")}','order':[{Pick(random, "", "'l'", "'k','goods'")}]}}";
            var (spec, products) = (string.Join('|', fields.Select(static f => f.Spec)), Pick(random, "A", "A A1", "A AA B", "1 A 1A"));
            var plan = RegisterPlan.Compile(Register(rule, spec), FieldTypes.Standard, TestKind.All).Plan;
            var shop = Shop(products);

            var listed = new Dictionary<string, string>(StringComparer.OrdinalIgnoreCase);
            var (shared, longest, contributed) = (false, 0, false);
            foreach (var product in shop.All)
            {
                IEnumerable<ImmutableArray<(string Key, object Value)>> carts =
                [
                    [],
                ];
                foreach (var (_, key, answers) in fields)
                {
                    carts = carts.SelectMany(before => answers.Select(a => a is null ? before : before.Add((key, a)))).ToList();
                }

                foreach (var answers in carts)
                {
                    var code = Evaluation
                        .Of(plan, shop, Fixture.Of(Fixture.Line(product.Code, 1, [.. answers])), Fixture.Today)
                        .ItemCodeOf(0);
                    shared |= !listed.TryAdd(code, product.Code);
                    contributed =
                        code.Length > longest ? code != product.Code : contributed || (code.Length == longest && code != product.Code);
                    longest = Math.Max(longest, code.Length);
                }
            }

            var problems = DraftChecks.Run(
                RegisterPlan.Compile(
                    Register(rule.Replace("{'sep", $"{{'longest':{longest},'sep", StringComparison.Ordinal), spec),
                    FieldTypes.Standard,
                    TestKind.All
                ),
                shop
            );
            problems.Any(static p => p.Code == "code_shared").ShouldBe(shared, $"{seed}/{round}: {products}; {rule}; {spec}");
            problems.ShouldNotContain(static p => p.Code == "code_too_long", $"{seed}/{round}: {products}; {rule}; {spec}");
            if (longest > 1)
            {
                DraftChecks
                    .Run(
                        RegisterPlan.Compile(
                            Register(rule.Replace("{'sep", $"{{'longest':{longest - 1},'sep", StringComparison.Ordinal), spec),
                            FieldTypes.Standard,
                            TestKind.All
                        ),
                        shop
                    )
                    .Any(static p => p.Code == "code_too_long")
                    .ShouldBe(contributed, $"{seed}/{round}: {products}; {rule}; {spec}");
            }

            clashes += shared ? 1 : 0;
        }

        clashes.ShouldBeInRange(20, 100);
    }

    private static (string Spec, string Key, List<object?> Answers) Drawn(Random random, char key)
    {
        string[] codes = ["A", "B", "1", "2", "AB", "1A", "11", "BA"];
        var choices = Enumerable.Range(0, random.Next(1, 4)).Select(i => (Key: $"c{i}", Code: Pick(random, codes))).ToList();
        var list = string.Join(' ', choices.Select(static c => $"{c.Key}={c.Code}"));
        var most = random.Next(1, choices.Count + 1);
        var (least, greatest) = (random.Next(-2, 9), random.Next(10, 13));
        var required = random.Next(2) == 0;
        var (kind, answers) = random.Next(5) switch
        {
            0 => ($"one_of{(required ? "!" : "")} {list}", choices.Select(static c => (object?)c.Key).ToList()),
            1 => (
                $"several_of{(required ? "!" : "")} most={most} {list}",
                Subsets(choices.Count)
                    .Where(s => s.Count is > 0 && s.Count <= most)
                    .Select(s => (object?)s.Select(static i => $"c{i}").ToArray())
                    .ToList()
            ),
            2 => (
                $"how_many_of_each{(required ? "!" : "")} most=3 {list}",
                Counts(choices.Count, 3).Select(static c => (object?)c).ToList()
            ),
            3 => (
                $"number{(required ? "!" : "")} least={least} most={greatest}",
                Enumerable.Range(least, greatest - least + 1).Select(static n => (object?)n).ToList()
            ),
            _ => (
                $"number{(required ? "!" : "")} decimals=1 least=0.5 most=1.5",
                Enumerable.Range(5, 11).Select(static n => (object?)(n / 10m)).ToList()
            ),
        };
        return ($"{key} {kind}", key.ToString(), required ? answers : [null, .. answers]);
    }

    private static IEnumerable<List<int>> Subsets(int count) =>
        Enumerable.Range(0, 1 << count).Select(set => Enumerable.Range(0, count).Where(i => (set >> i & 1) == 1).ToList());

    private static IEnumerable<Dictionary<string, string>> Counts(int choices, int most) =>
        Enumerable
            .Range(1, (int)Math.Pow(most + 1, choices) - 1)
            .Select(number =>
            {
                var counts = new Dictionary<string, string>(StringComparer.Ordinal);
                for (var i = 0; i < choices; i++, number /= most + 1)
                {
                    if (number % (most + 1) > 0)
                    {
                        counts[$"c{i}"] = (number % (most + 1)).ToString(CultureInfo.InvariantCulture);
                    }
                }

                return counts;
            })
            .Where(c => c.Values.Sum(static v => int.Parse(v, CultureInfo.InvariantCulture)) <= most);

    private static string Pick(Random random, params string[] among) => among[random.Next(among.Length)];

    private static ProductIndex Shop(string codes) =>
        new(codes.Split(' ').Select(static c => new Product(c, LanguageMap.Of(c), ["x"], 1)), Fixture.Products.Groups, "EUR", "IE");

    private static RegisterContent Register(string rule, string fields)
    {
        var made = fields.Split('|').Select(static f => f.Split(' ')).Select(FieldOf).ToList();
        return Fixture.Register([.. made]) with
        {
            Codes = new CodeRules { Shop = JsonSerializer.Deserialize<CodeRule>(rule.Replace('\'', '"'), DocumentJson.Options)! },
            Sections =
            [
                .. made.Select(static f => f.Section)
                    .OfType<string>()
                    .Distinct()
                    .Select(static s => new Section
                    {
                        Key = s,
                        Level = Level.Line,
                        Step = Step.ProductPage.Key,
                        Heading = LanguageMap.Of(s),
                        Opening = LanguageMap.Of(s + "?"),
                        GoesTo = ["back_office"],
                    }),
            ],
        };
    }

    private static Field FieldOf(string[] words)
    {
        var (choices, settings) = (new List<Choice>(), new List<(string, object)>());
        var (key, kind) = (words[0], words[1].TrimEnd('!'));
        var field = Fixture.Ask(key, kind) with { Required = words[1].EndsWith('!'), Code = Own, GoesTo = ["back_office"] };
        foreach (var (name, value) in words.Skip(2).Select(static w => w.Split('=')).Select(static w => (w[0], w[1])))
        {
            field = name switch
            {
                "of" => field with { AskedOf = ProductScope.Only(value) with { Groups = field.AskedOf.Groups } },
                "groups" => field with { AskedOf = field.AskedOf with { Groups = [value] } },
                "in" => field with { Section = value },
                "part" => field with { Code = new FieldCode { Part = value } },
                "when" => field with { When = When(value) },
                _ => field,
            };
            if (name is "most" or "least" or "step" or "decimals")
            {
                settings.Add(
                    (
                        name,
                        name == "decimals" || (kind != "number")
                            ? int.Parse(value, CultureInfo.InvariantCulture)
                            : decimal.Parse(value, CultureInfo.InvariantCulture)
                    )
                );
            }
            else if (name is not ("of" or "groups" or "in" or "part" or "when"))
            {
                var (code, when) = value.Split('@') is [var plain, var on] ? (plain, When(on)) : (value, null);
                choices.Add(
                    new Choice
                    {
                        Key = name,
                        Label = LanguageMap.Of(name),
                        Code = code.TrimEnd('!'),
                        Excludes = code.EndsWith('!'),
                        When = when,
                    }
                );
            }
        }

        if (choices.Count > 0)
        {
            settings.Add(("choices", choices.ToArray()));
        }

        if (kind == "yes_no" && field.Code == Own)
        {
            field = field with { Code = null };
        }

        if (kind == "worked_out")
        {
            settings.Add(
                ("working", JsonSerializer.Deserialize<JsonElement>("[{'do':'take','of':{'fact':'quantity'}}]".Replace('\'', '"')))
            );
        }

        return field with
        {
            Label = LanguageMap.Of("The " + key),
            Settings = Fixture.Ask(key, kind, [.. settings]).Settings,
        };
    }

    private static Condition When(string name) =>
        name switch
        {
            "country" => new ConditionTest(ShopFacts.Country, Relation.Is, AnswerValue.Of("IE")),
            "group" => new ConditionTest(ShopFacts.Group, Relation.Is, AnswerValue.Of("trade")),
            "product" => new ConditionTest(ShopFacts.Product, Relation.Is, AnswerValue.Of("A")),
            "other" => new ConditionTest(ShopFacts.Product, Relation.IsNot, AnswerValue.Of("A")),
            "yes" => new ConditionTest(ShopFacts.OfAnswer("y"), Relation.Is, AnswerValue.Yes),
            "no" => new ConditionGroup(GroupKind.None, [new ConditionTest(ShopFacts.OfAnswer("y"), Relation.Is, AnswerValue.Yes)]),
            _ => new ConditionTest(ShopFacts.OfAnswer("w"), Relation.Is, AnswerValue.Of(name)),
        };
}
