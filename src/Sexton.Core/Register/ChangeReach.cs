using Sexton.Core.Catalogue;
using Sexton.Core.Facts;

namespace Sexton.Core.Register;

/// <summary>What a change of something in the register touches, in words.</summary>
public static class ChangeReach
{
    /// <summary>What a change of a field, section, step or destination touches.</summary>
    /// <param name="key">Its key; one that the register no longer has was taken out.</param>
    /// <param name="register">The register with the change.</param>
    /// <param name="products">What the shop sells.</param>
    /// <example><code>ChangeReach.Of("wording", draft, products) // "3 products"</code></example>
    public static string Of(string key, RegisterContent register, ProductIndex products)
    {
        if (register.Steps.Any(s => s.Key == key))
        {
            return "the way to the order";
        }

        if (register.Destinations.Any(d => d.Key == key))
        {
            return "every delivery from then on";
        }

        var (field, section) = (register.Find(key), register.FindSection(register.Find(key)?.Section ?? key));
        var scopes = new[] { field?.AskedOf, section?.AskedOf }.OfType<ProductScope>().ToList();
        if (scopes.Count == 0)
        {
            return "orders placed before keep their answers";
        }

        if (scopes.TrueForAll(static s => s.All))
        {
            return (field?.Level ?? section!.Level) == Level.Order ? "every order" : "every product";
        }

        var count = products.All.Count(p => scopes.TrueForAll(s => s.Includes(p)));
        return count == 1 ? "1 product" : $"{count} products";
    }
}
