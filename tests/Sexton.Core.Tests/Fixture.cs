using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Catalogue;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Orders;
using Sexton.Core.Plan;
using Sexton.Core.Register;
using Sexton.Core.Routing;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>The small shop that the tests of the core share: a label, two trees of different height, pots in two sizes, and a walk. The label stands in two categories.</summary>
internal static class Fixture
{
    public static readonly DateOnly Today = new(2026, 11, 25);

    public static readonly ProductIndex Products = new(
        [
            new("LABEL", LanguageMap.Of("Zinc label"), ["Labels", "Presents"], 1700),
            new("TREE", LanguageMap.Of("Quince"), ["Trees"], 8950) { Tags = ["fruit", "pots"], Attributes = Attributes(("height", 2.5m)) },
            new("TALL", LanguageMap.Of("Hornbeam"), ["Trees"], 24500) { Attributes = Attributes(("height", 3.5m)) },
            new("POT", LanguageMap.Of("Pot"), ["Pots"], 900)
            {
                Variants =
                [
                    new("POT-S", LanguageMap.Of("small"), 900) { Attributes = Attributes(("height", 0.2m)) },
                    new("POT-L", LanguageMap.Of("large"), 2400) { Attributes = Attributes(("height", 0.6m)) },
                ],
            },
            new("WALK", LanguageMap.Of("Orchard walk"), ["Walks"], 1800) { UnitName = LanguageMap.Of("Seat"), Ships = false },
        ],
        [new("household", LanguageMap.Of("Household")), new("member", LanguageMap.Of("Member")), new("trade", LanguageMap.Of("Trade"))],
        "EUR",
        "IE"
    );

    public static Field Wording(int longest = 40, bool required = true) =>
        Ask("wording", "line_text", ("longest", longest)) with
        {
            Label = LanguageMap.Of("Words on the label"),
            Required = required,
            AskedOf = ProductScope.Only("LABEL"),
            GoesTo = [.. Destinations.All.Select(d => d.Key)],
        };

    /// <summary>A field of a line, asked of every product, that need not be answered.</summary>
    public static Field Ask(string key, string type, params (string Name, object Value)[] settings) =>
        new()
        {
            Key = key,
            Type = type,
            Level = Level.Line,
            Step = Step.ProductPage.Key,
            Label = LanguageMap.Of("The " + key),
            Settings = Settings(settings),
            GoesTo = ["order_page"],
        };

    /// <summary>The same of the whole order, asked in the cart.</summary>
    public static Field AskOrder(string key, string type, params (string Name, object Value)[] settings) =>
        Ask(key, type, settings) with
        {
            Level = Level.Order,
            Step = Step.Cart.Key,
        };

    /// <summary>The same of each one.</summary>
    public static Field AskUnit(string key, string type, params (string Name, object Value)[] settings) =>
        Ask(key, type, settings) with
        {
            Level = Level.Unit,
            AskedOf = ProductScope.Only("WALK"),
        };

    public static Section Section(string key, Level level = Level.Order) =>
        new()
        {
            Key = key,
            Level = level,
            Step = level == Level.Order ? Step.Cart.Key : Step.ProductPage.Key,
            Heading = LanguageMap.Of("Of " + key),
        };

    public static ImmutableSortedDictionary<string, JsonElement> Settings(params (string Name, object Value)[] settings) =>
        settings.ToImmutableSortedDictionary(
            s => s.Name,
            s => JsonSerializer.SerializeToElement(s.Value, DocumentJson.Options),
            StringComparer.Ordinal
        );

    public static Choice[] Choices(params string[] keys) => [.. keys.Select(k => new Choice { Key = k, Label = LanguageMap.Of("A " + k) })];

    public static Condition Condition(string json) => JsonSerializer.Deserialize<Condition>(json.Replace('\'', '"'), DocumentJson.Options)!;

    /// <summary>Where answers go: one of each kind that a shop begins with.</summary>
    public static readonly DestinationIndex Destinations = new(TestKind.All.AtFirst, TestKind.All);

    /// <summary>The shop's own questions, going everywhere.</summary>
    public static IEnumerable<Field> BuiltIns => BuiltInFields.In(Destinations);

    public static RegisterContent Register(params Field[] fields) => new([.. BuiltIns, .. fields]) { Destinations = TestKind.All.AtFirst };

    public static RegisterPlan Plan(params Field[] fields) => Plan(Register(fields));

    public static RegisterPlan Plan(RegisterContent register)
    {
        var compiled = RegisterPlan.Compile(register, FieldTypes.Standard, TestKind.All);
        compiled.Problems.ShouldBeEmpty();
        return compiled.Plan;
    }

    public static AnswerSet Answers(params (string Key, object Value)[] answers) =>
        AnswerSet.Of(answers.Select(a => KeyValuePair.Create(a.Key, Value(a.Value))));

    public static AnswerValue Value(object value) =>
        value switch
        {
            string text => AnswerValue.Of(text),
            bool truth => AnswerValue.Of(truth),
            int number => AnswerValue.Of((decimal)number),
            decimal number => AnswerValue.Of(number),
            string[] picks => AnswerValue.Of([.. picks]),
            _ => AnswerValue.Of((Dictionary<string, string>)value),
        };

    public static AnswerSet Shopper { get; } =
        Answers(
            ("name", "Odile Farrant"),
            ("email", "odile@farrant.example"),
            (
                "delivery_address",
                new Dictionary<string, string>(StringComparer.Ordinal)
                {
                    ["street"] = "Quarry Lane 4",
                    ["town"] = "Aldmoor",
                    ["country"] = "IE",
                }
            )
        );

    public static CartContent Cart(string? wording, int quantity = 1) =>
        Of(Line("LABEL", quantity, wording is null ? [] : [("wording", wording)]));

    /// <summary>A cart of lines, with what the shop itself asks answered.</summary>
    public static CartContent Of(params CartLine[] lines) =>
        new() { Lines = [.. lines.Select((l, i) => l with { Id = "l" + (i + 1) })], Answers = Shopper };

    public static CartLine Line(string product, int quantity = 1, params (string Key, object Value)[] answers) =>
        new("", product.Split('/')[0], quantity, Answers(answers))
        {
            VariantCode = product.Contains('/', StringComparison.Ordinal) ? product.Split('/')[1] : null,
        };

    public static Evaluation Evaluate(CartContent cart, params Field[] fields) => Evaluate(Plan(fields), cart);

    public static Evaluation Evaluate(RegisterPlan plan, CartContent cart) => Evaluation.Of(plan, Products, cart, Today);

    public static OrderContent Order(Evaluation evaluation) => OrderSnapshot.Of(evaluation, 1, Words(evaluation.Plan.Content));

    public static ConditionWords Words(RegisterContent register) => new(register, FieldTypes.Standard, Products);

    /// <summary>Everything an evaluation says, as one text.</summary>
    public static string Said(Evaluation evaluation) =>
        string.Join(
            '|',
            evaluation
                .Asked.Select(a => $"{a.Slot}={a.TextIn("en")}{(a.Required ? "!" : "")}")
                .Concat(
                    evaluation.Problems.Select(p =>
                        $"{p.Refusal.Key}@{p.LineId}/{p.UnitId}/{p.Field?.Key}: {p.SentenceIn(Sexton.Core.Sentences.Wording.Usual, "en")}"
                    )
                )
                .Concat(
                    evaluation.Rows.Select(r =>
                        $"{r.LineId}/{r.UnitId}/{r.LabelIn(Sexton.Core.Sentences.Wording.Usual, "en")}/{r.Choice}: {r.Quantity} × {r.UnitMinor} = {r.SumMinor} at {r.TaxPpm}"
                    )
                )
                .Concat(
                    evaluation.Uses.Select(u =>
                        $"{evaluation.Facts.LineIdAt(u.Place)}/{evaluation.Facts.UnitIdAt(u.Place)}/{u.Field?.Key}/{u.Choice} uses {u.Quantity} {u.Item}"
                    )
                )
                .Concat(
                    Enumerable
                        .Range(0, evaluation.Facts.LineCount)
                        .Where(evaluation.Facts.IsSold)
                        .Select(i => $"{evaluation.Facts.LineAt(i).Id} is sold as {evaluation.ItemCodeOf(i)}")
                )
                .Append($"{evaluation.TotalMinor} for {evaluation.WeightGrams} g")
        );

    /// <summary>The shopper's sentences, each with its place where it has one.</summary>
    public static IEnumerable<string> Sentences(Evaluation evaluation) =>
        evaluation.Problems.Select(static p => p.SentenceIn(Sexton.Core.Sentences.Wording.Usual, "en"));

    private static ImmutableSortedDictionary<string, ProductAttribute> Attributes(params (string Name, decimal Value)[] attributes) =>
        attributes.ToImmutableSortedDictionary(
            a => a.Name,
            a => new ProductAttribute(AnswerValue.Of(a.Value), "m"),
            StringComparer.Ordinal
        );
}
