using Sexton.Core.Cart;
using Sexton.Core.Catalogue;
using Sexton.Core.Register;

namespace Sexton.Server.Shop;

/// <summary>Gives each line that asks per unit as many units as its quantity, and takes them from lines that do not.</summary>
internal static class UnitFiller
{
    /// <summary>The cart with its units in order. A stand-in cart or a form may send fewer; nobody may send more.</summary>
    public static CartContent Fill(RegisterPlan plan, ProductIndex products, CartContent cart) =>
        cart with { Lines = [.. cart.Lines.Select(line => Fill(plan, products, line))] };

    /// <summary>The same for one line.</summary>
    public static CartLine Fill(RegisterPlan plan, ProductIndex products, CartLine line) =>
        products.Find(line.ProductCode, line.VariantCode) is { } goods && plan.AsksPerUnit(goods.Product) ? line.WithUnits() : line with { Units = [] };
}
