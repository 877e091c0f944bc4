using System.Globalization;
using Sexton.Core.Catalogue;
using Sexton.Core.Checks;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Register;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Bench;

/// <summary>All checks over a draft of three hundred fields and two thousand products, which run after every change, against compiling that draft once.</summary>
internal static class ChecksBench
{
    private const int Products = 2000;

    public static void Run(int rounds)
    {
        var (register, products) = (Register(), Catalogue());
        var compiled = RegisterPlan.Compile(register, FieldTypes.Standard, BenchRegister.Kinds);
        if (DraftChecks.Run(compiled, products) is [var problem, ..])
        {
            throw new InvalidOperationException($"The draft has a problem: {problem.Field}: {problem.Sentence}");
        }

        Console.WriteLine(
            string.Create(CultureInfo.InvariantCulture, $"\nAll checks: {register.Fields.Length} fields, {Products} products")
        );
        var ratios = new List<double>();
        for (var i = -1; i < rounds; i++)
        {
            var compile = Rounds.SecondsOf(() => RegisterPlan.Compile(register, FieldTypes.Standard, BenchRegister.Kinds));
            var checks = Rounds.SecondsOf(() => DraftChecks.Run(compiled, products));
            if (i >= 0)
            {
                ratios.Add(checks / compile);
                Console.WriteLine(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"  one compile {compile * 1e3, 7:0.0} ms   all checks {checks * 1e3, 7:0.0} ms   ratio {ratios[^1]:0.00}"
                    )
                );
            }
        }

        Console.WriteLine(
            string.Create(CultureInfo.InvariantCulture, $"  median: {Rounds.Median(ratios):0.00} times one compile; goal: at most 5")
        );
    }

    // Half asked of a category, a quarter of tags, the others of products; a third hangs on what is bought as well. Twenty cost something, five stand in item codes.
    private static RegisterContent Register()
    {
        var register = BenchRegister.Priced(BenchRegister.Of(100, 200));
        return register with
        {
            Fields =
            [
                .. register.Fields.Select(
                    (field, i) =>
                        field with
                        {
                            AskedOf = (i % 4) switch
                            {
                                0 => ProductScope.Only(Enumerable.Range(0, 20).Select(p => Code(((i * 20) + p) % Products))),
                                1 => new ProductScope { Tags = [Tag(i % 30), Tag((i + 1) % 30)] },
                                _ => new ProductScope { Categories = [Category(i % 40)] },
                            },
                            When =
                                field.When is null && field.Level == Level.Line && i % 3 == 0
                                    ? new ConditionTest(
                                        ShopFacts.Product,
                                        Relation.IsAmong,
                                        AnswerValue.Of([Code(i % Products), Code((i + 7) % Products)])
                                    )
                                    : field.When,
                            GoesTo = field.Level == Level.Line ? ["back_office", "cart_line", "order_page"] : ["back_office", "order_page"],
                        }
                ),
            ],
        };
    }

    private static ProductIndex Catalogue() =>
        new(
            Enumerable
                .Range(0, Products)
                .Select(i => new Product(Code(i), LanguageMap.Of($"Product {i}"), [Category(i % 40)], 1000) { Tags = [Tag(i % 30)] }),
            [new ShopperGroup("household", LanguageMap.Of("Household"))],
            "EUR",
            "IE"
        );

    private static string Code(int i) => string.Create(CultureInfo.InvariantCulture, $"P{i:0000}");

    private static string Category(int i) => string.Create(CultureInfo.InvariantCulture, $"Category {i}");

    private static string Tag(int i) => string.Create(CultureInfo.InvariantCulture, $"tag-{i}");
}
