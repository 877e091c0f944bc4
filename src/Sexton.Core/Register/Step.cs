using System.Collections.Immutable;

namespace Sexton.Core.Register;

/// <summary>Where on the way to the order a field is asked.</summary>
/// <param name="Key">The stable key, such as "product_page".</param>
/// <param name="Name">What the interface calls it.</param>
public sealed record Step(string Key, string Name)
{
    /// <summary>The page of a product, before it is in the cart.</summary>
    public static readonly Step ProductPage = new("product_page", "Product page");

    /// <summary>The cart.</summary>
    public static readonly Step Cart = new("cart", "Cart");

    /// <summary>Who is buying, and how to reach them.</summary>
    public static readonly Step Contact = new("contact", "Contact");

    /// <summary>Where the goods go.</summary>
    public static readonly Step Delivery = new("delivery", "Delivery");

    /// <summary>Paying.</summary>
    public static readonly Step Payment = new("payment", "Payment");

    /// <summary>All steps in the order in which a shopper passes them.</summary>
    public static readonly ImmutableArray<Step> All = [ProductPage, Cart, Contact, Delivery, Payment];

    /// <summary>The place of a step on the way, from 0; -1 when there is no such step.</summary>
    public static int OrdinalOf(string key)
    {
        for (var i = 0; i < All.Length; i++)
        {
            if (string.Equals(All[i].Key, key, StringComparison.Ordinal))
            {
                return i;
            }
        }

        return -1;
    }
}
