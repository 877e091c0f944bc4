using System.Collections.Immutable;
using Sexton.Core.Cart;
using Sexton.Core.Catalogue;
using Sexton.Core.Pricing;
using Sexton.Core.Register;
using Sexton.Core.Register.Types;

namespace Sexton.Core.Asking;

/// <summary>Asks, checks and prices a cart: pure, and the same for shop, preview and attempt.</summary>
public static class Evaluator
{
    /// <summary>Evaluates a cart.</summary>
    /// <param name="plan">The compiled register.</param>
    /// <param name="products">The products on sale.</param>
    /// <param name="cart">The cart.</param>
    public static Evaluation Evaluate(RegisterPlan plan, ProductIndex products, CartContent cart)
    {
        var work = new Work(cart.Language);
        if (cart.Lines.IsEmpty)
        {
            work.Problems.Add(new(Sentences.EmptyCart, null, null, null, Step.Cart.Key, Sentences.For(Sentences.EmptyCart, "", [])));
        }

        var rows = ImmutableArray.CreateBuilder<PriceRow>(cart.Lines.Length);
        long total = 0;
        foreach (var line in cart.Lines)
        {
            if (products.Find(line.ProductCode) is not { } product)
            {
                work.Problems.Add(new(Sentences.NotSold, null, line.Id, null, Step.Cart.Key, Sentences.For(Sentences.NotSold, "", [])));
                continue;
            }

            foreach (var field in plan.LineFields)
            {
                if (field.Field.AskedOf.Includes(line.ProductCode))
                {
                    work.Ask(field, line.Id, line.Answers);
                }
            }

            var sum = checked(product.PriceMinor * line.Quantity);
            total = checked(total + sum);
            rows.Add(new PriceRow(line.Id, product.Code, product.Name.In(cart.Language), line.Quantity, product.PriceMinor, sum));
        }

        foreach (var field in plan.OrderFields)
        {
            work.Ask(field, null, cart.Answers);
        }

        return new Evaluation(work.Asked.ToImmutable(), work.Problems.ToImmutable(), new PriceSheet(rows.ToImmutable(), total, products.Currency));
    }

    private sealed class Work(string language)
    {
        public ImmutableArray<AskedField>.Builder Asked { get; } = ImmutableArray.CreateBuilder<AskedField>();

        public ImmutableArray<AnswerProblem>.Builder Problems { get; } = ImmutableArray.CreateBuilder<AnswerProblem>();

        public void Ask(PlannedField field, string? lineId, ImmutableSortedDictionary<string, AnswerValue> answers)
        {
            var reading = answers.TryGetValue(field.Field.Key, out var raw) ? field.Rule.Read(raw) : Reading.Empty;
            Asked.Add(new AskedField(field, lineId, reading.Value, reading.Text));
            if (reading.Refusal is { } refusal)
            {
                Add(field, lineId, refusal);
            }
            else if (reading.Value is null && field.Field.Required)
            {
                Add(field, lineId, new Refusal(RefusalCodes.Required, null, []));
            }
        }

        private void Add(PlannedField field, string? lineId, Refusal refusal) =>
            Problems.Add(new(
                refusal.Code,
                field.Field.Key,
                lineId,
                refusal.Part,
                field.Field.Step,
                Sentences.For(refusal.Code, field.Field.Label.In(language), refusal.Details)));
    }
}
