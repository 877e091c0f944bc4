using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Catalogue;
using Sexton.Core.Register;
using Sexton.Core.Register.Types;
using Sexton.Core.Routing;

namespace Sexton.Core.Tests;

/// <summary>The small shop that the tests of the core share.</summary>
internal static class Fixture
{
    public static readonly ProductIndex Products = new(
        [new("LABEL", LanguageMap.Of("Zinc label"), "Labels", 1700), new("TREE", LanguageMap.Of("Quince"), "Trees", 8950)],
        "EUR");

    public static Field Wording(int longest = 40, bool required = true) => new()
    {
        Key = "wording",
        Type = "line_text",
        Level = Level.Line,
        Step = Step.ProductPage.Key,
        Label = LanguageMap.Of("Words on the label"),
        Required = required,
        AskedOf = ProductScope.Only("LABEL"),
        Settings = ImmutableSortedDictionary<string, JsonElement>.Empty.Add("longest", JsonSerializer.SerializeToElement(longest)),
        GoesTo = [.. DestinationIndex.All.Select(d => d.Key)],
    };

    public static RegisterContent Register(params Field[] fields) => new([.. BuiltInFields.All, .. fields]);

    public static RegisterPlan Plan(params Field[] fields)
    {
        var compiled = RegisterPlan.Compile(Register(fields), FieldTypes.Standard);
        compiled.Problems.ShouldBeEmpty();
        return compiled.Plan;
    }

    public static ImmutableSortedDictionary<string, AnswerValue> Answers(params (string Key, string Text)[] answers) =>
        answers.ToImmutableSortedDictionary(a => a.Key, a => AnswerValue.Of(a.Text), StringComparer.Ordinal);

    public static ImmutableSortedDictionary<string, AnswerValue> Shopper => Answers(("name", "Odile Farrant"), ("email", "odile@farrant.example"))
        .Add("delivery_address", AnswerValue.Of(new Dictionary<string, string>(StringComparer.Ordinal) { ["street"] = "Quarry Lane 4", ["town"] = "Aldmoor", ["country"] = "IE" }));

    public static CartContent Cart(string? wording, int quantity = 1) => new()
    {
        Lines = [new CartLine("l1", "LABEL", quantity, wording is null ? Answers() : Answers(("wording", wording)))],
        Answers = Shopper,
    };

    public static Evaluation Evaluate(CartContent cart, params Field[] fields) => Evaluator.Evaluate(Plan(fields), Products, cart);
}
