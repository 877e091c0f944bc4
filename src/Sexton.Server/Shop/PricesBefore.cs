using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Catalogue;
using Sexton.Core.Plan;
using Sexton.Core.Pricing;
using Sexton.Core.Values;

namespace Sexton.Server.Shop;

/// <summary>What products cost before anything is answered: what the catalogue says, or where an answer is the price the least of it, or what decides it.</summary>
/// <param name="plan">The register in force.</param>
/// <param name="products">What the shop sells.</param>
/// <param name="today">Today, in the time zone of the shop.</param>
/// <param name="language">The language of the shopper.</param>
internal sealed class PricesBefore(RegisterPlan plan, ProductIndex products, DateOnly today, string language)
{
    private readonly PriceWords _words = new(products.Currency, language, plan.Wording);

    /// <summary>The price of one as text: "€ 17.00", "from € 10.00", "by “How much”".</summary>
    /// <param name="product">The product.</param>
    /// <param name="variant">Its variant, or null.</param>
    public string Of(Product product, Variant? variant)
    {
        // Of most products no answer is the price, and what the catalogue says is true.
        if (
            plan.Prices.Of(PriceKind.ForTheGoods).Any(p => p.Field.IsAskedOf(product))
            && products.Find(product.Code, variant?.Code) is not null
        )
        {
            var line = new CartLine("1", product.Code, 1, AnswerSet.Empty) { VariantCode = variant?.Code };
            var goods = Evaluation.Of(plan, products, new CartContent { Lines = [line] }, today).Rows[0];
            return goods.OpenBy is { } open ? _words.Open(goods.FromMinor, open.Label.In(language)) : _words.Amount(goods.UnitMinor);
        }

        return _words.Amount(variant?.PriceMinor ?? product.PriceMinor);
    }
}
