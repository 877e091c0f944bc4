using System.Globalization;
using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Conditions;
using Sexton.Core.Facts;
using Sexton.Core.Files;
using Sexton.Core.Plan;
using Sexton.Core.Register;
using Sexton.Core.Types;
using Sexton.Data.Placing;
using Sexton.Server.Shop;
using Sexton.Server.Versions;

namespace Sexton.Server.Fields;

/// <summary>Shows what the draft asks of a stand-in cart, and why it does not ask the rest.</summary>
internal sealed class DraftPreview(
    DraftStore draft,
    CurrentRegister current,
    FieldTypes types,
    Evaluator evaluator,
    StockReservations stock
)
{
    /// <summary>Shows it.</summary>
    /// <param name="cart">The stand-in cart.</param>
    /// <param name="explain">The key of the field or section whose conditions are explained, or null.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<PreviewView> ShowAsync(CartContent cart, string? explain, CancellationToken cancel)
    {
        cart.CheckShape();
        var products = await current.ProductsAsync(cancel);
        var plan = draft.Compile(await draft.ReadAsync(cancel)).Plan;
        var evaluation = await evaluator.RunAsync(
            plan,
            products,
            plan.WithUnits(products, cart),
            await stock.LevelsAsync(cancel),
            cancel,
            KeptFiles.Samples
        );
        var words = new ConditionWords(plan.Content, types, products);
        return new PreviewView(
            EvaluationView.Of(evaluation, Field.OnTheForm, 0, allCodes: true),
            [
                .. new NotAskedReasons(evaluation.Facts, words)
                    .All()
                    .Select(static n => new NotAskedView(n.Field.Key, n.LineId, n.UnitId, n.Why, n.ByCondition)),
            ],
            explain is not null && plan.Find(explain) is { } field ? Explain(field, evaluation, words) : []
        );
    }

    /// <summary>What the condition of a price is called where conditions stand by the path of their setting.</summary>
    public static string OfPrice(int index) => string.Create(CultureInfo.InvariantCulture, $"prices.{index}");

    /// <inheritdoc cref="OfPrice"/>
    public static string OfUse(int index) => string.Create(CultureInfo.InvariantCulture, $"uses.{index}");

    // At the first place that could ask it: a condition is about one line or unit, and one is enough to see it at work.
    private static Dictionary<string, Explained> Explain(PlannedField field, Evaluation evaluation, ConditionWords words)
    {
        var line = Enumerable
            .Range(0, evaluation.Facts.LineCount)
            .FirstOrDefault(
                i =>
                    evaluation.Facts.IsSold(i)
                    && field.Field.AskedOf.Includes(evaluation.Facts.Goods(i).Product)
                    && (field.Level != Level.Unit || evaluation.Facts.UnitsOf(i) > 0),
                -1
            );
        if (field.Level != Level.Order && line < 0)
        {
            return [];
        }

        var place = field.Level switch
        {
            Level.Order => Place.Order,
            Level.Line => new Place(line, -1),
            _ => new Place(line, 0),
        };
        var explainer = new ConditionExplainer(evaluation.Facts, words);
        var explained = new Dictionary<string, Explained>(StringComparer.Ordinal);
        Add("when", field.Field.When, field.When);
        Add("required_when", field.Field.RequiredWhen, field.RequiredWhen);
        evaluation.AsJudged(field, place, () => Add("refused_when", field.Field.RefusedWhen, field.RefusedWhen));
        foreach (var (destination, when) in field.Field.GoesToWhen)
        {
            Add("goes_to_when." + destination, when, field.RouteWhen.GetValueOrDefault(destination));
        }

        for (var i = 0; i < field.ChoiceWhen.Length; i++)
        {
            Add("choice." + field.Rule.Choices[i].Key, field.Rule.Choices[i].When, field.ChoiceWhen[i]);
        }

        for (var i = 0; i < field.Prices.Length; i++)
        {
            Add(OfPrice(i), field.Prices[i].Price.When, field.Prices[i].When);
        }

        return explained;

        void Add(string setting, Condition? condition, BoundCondition? bound)
        {
            if (condition is not null && bound is not null)
            {
                explained[setting] = explainer.Explain(condition, bound, place);
            }
        }
    }
}

/// <summary>What the draft asks of a cart.</summary>
/// <param name="Evaluation">The evaluation.</param>
/// <param name="NotAsked">What is not asked, and why.</param>
/// <param name="Explained">The conditions of the field at hand, part by part, by the path of their setting.</param>
internal sealed record PreviewView(
    EvaluationView Evaluation,
    IReadOnlyList<NotAskedView> NotAsked,
    IReadOnlyDictionary<string, Explained> Explained
);

/// <summary>A field that is not asked, and why.</summary>
/// <param name="Field">The key of the field.</param>
/// <param name="LineId">The line of which it is not asked; null for the order.</param>
/// <param name="UnitId">The unit of it; null for the line or order.</param>
/// <param name="Why">Why.</param>
/// <param name="ByCondition">Whether more than the product decides it.</param>
internal sealed record NotAskedView(string Field, string? LineId, string? UnitId, string Why, bool ByCondition);
