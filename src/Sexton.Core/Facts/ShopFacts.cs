using System.Collections.Immutable;

namespace Sexton.Core.Facts;

/// <summary>A fact that the shop knows by itself, which conditions can test.</summary>
/// <param name="Key">The stable key.</param>
/// <param name="Name">What the interface calls it.</param>
/// <param name="Kind">What kind of thing it is.</param>
/// <param name="Level">Whether it belongs to the order or to each line.</param>
/// <param name="KnownFrom">The key of the step from which on it is known.</param>
public sealed record ShopFact(string Key, string Name, FactKind Kind, Level Level, string KnownFrom);

/// <summary>
/// The facts that conditions test: those of the shop, "attribute.NAME" for a typed attribute of the line's product, and "answer.KEY"
/// for the answer of a field.
/// </summary>
public static class ShopFacts
{
    /// <summary>The keys of the shop's own facts.</summary>
    public const string Product = "product",
        Variant = "variant",
        Category = "category",
        Tag = "tag",
        Quantity = "quantity",
        Ships = "ships",
        CartTotal = "cart_total",
        CartCount = "cart_count",
        Group = "group",
        Country = "country",
        Date = "date";

    /// <summary>What the keys of attributes and answers begin with.</summary>
    public const string AttributePrefix = "attribute.",
        AnswerPrefix = "answer.";

    /// <summary>
    /// The shop's own facts. Group, country and date have a value from the start; what the whole cart comes to is settled at the cart.
    /// </summary>
    public static readonly ImmutableArray<ShopFact> All =
    [
        new(Product, "the product", FactKind.Choice, Level.Line, Step.ProductPage.Key),
        new(Variant, "the variant", FactKind.Choice, Level.Line, Step.ProductPage.Key),
        new(Category, "the category", FactKind.AnyOf, Level.Line, Step.ProductPage.Key),
        new(Tag, "the product’s tags", FactKind.List, Level.Line, Step.ProductPage.Key),
        new(Quantity, "the quantity", FactKind.Number, Level.Line, Step.ProductPage.Key),
        new(Ships, "the product is sent", FactKind.Truth, Level.Line, Step.ProductPage.Key),
        new(CartTotal, "the cart’s total", FactKind.Number, Level.Order, Step.Cart.Key),
        new(CartCount, "the number of pieces in the cart", FactKind.Number, Level.Order, Step.Cart.Key),
        new(Group, "the shopper group", FactKind.Choice, Level.Order, Step.ProductPage.Key),
        new(Country, "the country", FactKind.Choice, Level.Order, Step.ProductPage.Key),
        new(Date, "today", FactKind.Day, Level.Order, Step.ProductPage.Key),
    ];

    /// <summary>The fact with a key, or null when it is none of the shop's own.</summary>
    public static ShopFact? Find(string key) => All.FirstOrDefault(f => f.Key == key);

    /// <summary>The key of the fact that is a field's answer.</summary>
    public static string OfAnswer(string field) => AnswerPrefix + field;

    /// <summary>The key of the field whose answer a fact is, or null.</summary>
    public static string? FieldOf(string fact) =>
        fact.StartsWith(AnswerPrefix, StringComparison.Ordinal) ? fact[AnswerPrefix.Length..] : null;

    /// <summary>The name of the attribute that a fact is, or null.</summary>
    public static string? AttributeOf(string fact) =>
        fact.StartsWith(AttributePrefix, StringComparison.Ordinal) ? fact[AttributePrefix.Length..] : null;
}
