using System.Collections.Immutable;
using Sexton.Core.Values;

namespace Sexton.Core.Facts;

/// <summary>Where on the way to the order a field is asked.</summary>
/// <param name="Key">The stable key, such as "product_page".</param>
/// <param name="Name">What it is called.</param>
/// <param name="Own">True for a step that the manager put there.</param>
public sealed record Step(string Key, LanguageMap Name, bool Own = false)
{
    /// <summary>The page of a product, before it is in the cart.</summary>
    public static readonly Step ProductPage = new("product_page", LanguageMap.Both("Product page", "Produktseite"));

    /// <summary>The cart.</summary>
    public static readonly Step Cart = new("cart", LanguageMap.Both("Cart", "Warenkorb"));

    /// <summary>Who is buying, and how to reach them.</summary>
    public static readonly Step Contact = new("contact", LanguageMap.Both("Contact", "Kontakt"));

    /// <summary>Where the goods go.</summary>
    public static readonly Step Delivery = new("delivery", LanguageMap.Both("Delivery", "Lieferung"));

    /// <summary>Paying.</summary>
    public static readonly Step Payment = new("payment", LanguageMap.Both("Payment", "Zahlung"));

    /// <summary>The steps that every shop has, in the order in which a shopper passes them.</summary>
    public static readonly ImmutableArray<Step> Standard = [ProductPage, Cart, Contact, Delivery, Payment];

    /// <summary>The first step at which something of a level can be asked.</summary>
    public static Step FirstOf(Level level) => level == Level.Order ? Cart : ProductPage;
}
