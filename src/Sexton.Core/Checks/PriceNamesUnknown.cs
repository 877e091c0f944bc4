using Sexton.Core.Catalogue;
using Sexton.Core.Plan;

namespace Sexton.Core.Checks;

/// <summary>A price for a shopper group or a variant that the shop does not have: nobody would ever pay it.</summary>
internal sealed class PriceNamesUnknown : IDraftCheck
{
    public IEnumerable<Problem> Check(RegisterPlan plan, ProductIndex products)
    {
        foreach (var field in plan.Displayed)
        {
            foreach (var other in field.Field.Prices.SelectMany(static p => p.For))
            {
                if (other.Group is not null && !products.Names.Groups.Contains(other.Group))
                {
                    yield return Unknown(field, $"The shop has no shopper group “{other.Group}”. Choose another, or take its price out.");
                }

                if (other.Variant is not null && !products.Names.Variants.Contains(other.Variant))
                {
                    yield return Unknown(field, $"The shop has no variant “{other.Variant}”. Choose another, or take its price out.");
                }
            }
        }
    }

    private static Problem Unknown(PlannedField field, string sentence) =>
        new("price_names_unknown", field.Field.Key, "prices", sentence, []);
}
