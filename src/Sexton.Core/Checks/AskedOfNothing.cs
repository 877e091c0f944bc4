using Sexton.Core.Catalogue;
using Sexton.Core.Register;

namespace Sexton.Core.Checks;

/// <summary>A field per line that no product asks, or that names a product which is not sold.</summary>
internal sealed class AskedOfNothing : IDraftCheck
{
    public IEnumerable<Problem> Check(RegisterPlan plan, ProductIndex products)
    {
        foreach (var field in plan.LineFields.Select(static f => f.Field).Where(static f => !f.AskedOf.All))
        {
            if (field.AskedOf.Products.IsEmpty)
            {
                yield return new Problem("asked_of_nothing", field.Key, "asked_of", "No product asks it. Choose the products.", []);
            }

            foreach (var code in field.AskedOf.Products.Where(code => products.Find(code) is null))
            {
                var others = ProductScope.Only(field.AskedOf.Products.Remove(code));
                yield return new Problem(
                    "asked_of_unknown",
                    field.Key,
                    "asked_of",
                    $"The product “{code}” is not sold.",
                    [new Remedy("Take it out", "asked_of", System.Text.Json.JsonSerializer.SerializeToElement(others, RegisterJson.Options))]);
            }
        }
    }
}
