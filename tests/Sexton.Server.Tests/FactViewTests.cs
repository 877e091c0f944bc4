using System.Collections.Immutable;
using Sexton.Core.Catalogue;
using Sexton.Core.Register;
using Sexton.Core.Types;
using Sexton.Core.Values;
using Sexton.Server.Fields;

namespace Sexton.Server.Tests;

/// <summary>What the console offers a condition to test.</summary>
public sealed class FactViewTests
{
    [Theory]
    // the fact, of which kind it is, how often there is one, its unit, what it can be
    [InlineData("attribute.height", "number", "line", "m", "")]
    [InlineData("attribute.format", "text", "line", "", "bare root, potted")]
    [InlineData("attribute.winter_hardy", "truth", "line", "", "")]
    [InlineData("attribute.girth", "number", "line", "cm", "")] // Of a variant only.
    [InlineData("category", "any_of", "line", "", "Trees, Walks")]
    [InlineData("variant", "choice", "line", "", "Quince, small")]
    [InlineData("group", "choice", "order", "", "Trade")]
    public void A_fact_is_offered_with_its_kind_and_what_it_can_be(string key, string kind, string level, string unit, string options)
    {
        Product[] products =
        [
            new("Q", LanguageMap.Of("Quince"), ["Trees"], 100)
            {
                Attributes = Attributes(
                    ("height", new(AnswerValue.Of(2.5m), "m")),
                    ("format", new(AnswerValue.Of("bare root"))),
                    ("winter_hardy", new(AnswerValue.Of(true)))
                ),
                Variants = [new("Q-S", LanguageMap.Of("small"), 90) { Attributes = Attributes(("girth", new(AnswerValue.Of(8m), "cm"))) }],
            },
            new("H", LanguageMap.Of("Hornbeam"), ["Trees"], 100) { Attributes = Attributes(("format", new(AnswerValue.Of("potted")))) },
            new("W", LanguageMap.Of("Walk"), ["Walks"], 100),
        ];
        var fact = new FactViews(
            new RegisterContent([]),
            FieldTypes.Standard,
            products,
            new ProductIndex(products, [new ShopperGroup("trade", LanguageMap.Of("Trade"))], "EUR", "IE")
        )
            .All()
            .Single(f => f.Key == key);
        (
            fact.Kind,
            fact.Level.ToString().ToLowerInvariant(),
            fact.Unit,
            string.Join(", ", fact.Options.Select(static o => o.Name).Order())
        ).ShouldBe((kind, level, unit, options));
    }

    private static ImmutableSortedDictionary<string, ProductAttribute> Attributes(params (string Name, ProductAttribute Attribute)[] all) =>
        all.ToImmutableSortedDictionary(static a => a.Name, static a => a.Attribute, StringComparer.Ordinal);
}
