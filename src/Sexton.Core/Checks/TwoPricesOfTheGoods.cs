using Sexton.Core.Catalogue;
using Sexton.Core.Plan;
using Sexton.Core.Pricing;

namespace Sexton.Core.Checks;

/// <summary>
/// Two fields whose answers are both the price of the line, of a product that asks both whatever the case: whoever answers both cannot
/// order. Where a condition stands between them, the cart decides, and tells the shopper.
/// </summary>
internal sealed class TwoPricesOfTheGoods : IDraftCheck
{
    public IEnumerable<Problem> Check(RegisterPlan plan, ProductIndex products)
    {
        var always = plan
            .Prices.Of(PriceKind.ForTheGoods)
            .Where(static p => p.Price.When is null)
            .Select(static p => (PlannedField)p.Field)
            .Where(static f => f.Field.When is null && f.Within?.Field.When is null)
            .Distinct()
            .ToList();
        foreach (var (field, i) in always.Select(static (f, i) => (f, i)))
        {
            foreach (var other in always.Take(i))
            {
                if (products.All.FirstOrDefault(p => field.IsAskedOf(p) && other.IsAskedOf(p)) is { } product)
                {
                    yield return new Problem(
                        "two_prices_of_the_goods",
                        field.Key,
                        "prices",
                        $"“{product.Name}” asks “{other.NameForStaff}” too, and both would be its price. Put one of them under a condition, or let it add instead.",
                        []
                    );
                }
            }
        }
    }
}
