using System.Collections.Immutable;

namespace Sexton.Core.Register;

/// <summary>Where on the way to the order a field is asked.</summary>
/// <param name="Key">The stable key, such as "product_page".</param>
/// <param name="Name">What it is called.</param>
/// <param name="Own">True for a step that the manager put there.</param>
public sealed record Step(string Key, LanguageMap Name, bool Own = false)
{
    /// <summary>The page of a product, before it is in the cart.</summary>
    public static readonly Step ProductPage = new("product_page", LanguageMap.Of("Product page"));

    /// <summary>The cart.</summary>
    public static readonly Step Cart = new("cart", LanguageMap.Of("Cart"));

    /// <summary>Who is buying, and how to reach them.</summary>
    public static readonly Step Contact = new("contact", LanguageMap.Of("Contact"));

    /// <summary>Where the goods go.</summary>
    public static readonly Step Delivery = new("delivery", LanguageMap.Of("Delivery"));

    /// <summary>Paying.</summary>
    public static readonly Step Payment = new("payment", LanguageMap.Of("Payment"));

    /// <summary>The steps that every shop has, in the order in which a shopper passes them.</summary>
    public static readonly ImmutableArray<Step> Standard = [ProductPage, Cart, Contact, Delivery, Payment];

    /// <summary>All steps of a register, its own ones after the step that they follow.</summary>
    public static ImmutableArray<Step> All(RegisterContent register) =>
        [
            .. Standard.SelectMany(s =>
                register.Steps.Where(own => own.After == s.Key).Select(static own => new Step(own.Key, own.Name, Own: true)).Prepend(s)
            ),
        ];
}

/// <summary>A step that the manager put on the way. It is shown only when something on it is asked.</summary>
/// <param name="Key">The stable key; keys of fields, sections and steps never meet.</param>
/// <param name="Name">What the shopper reads above it.</param>
/// <param name="After">The key of the standard step that it follows: cart, contact or delivery.</param>
public sealed record OwnStep(string Key, LanguageMap Name, string After)
{
    /// <summary>The steps after which one of the manager's own can stand.</summary>
    public static readonly ImmutableArray<string> Places = [Step.Cart.Key, Step.Contact.Key, Step.Delivery.Key];
}
