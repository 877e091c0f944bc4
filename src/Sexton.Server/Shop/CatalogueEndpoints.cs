using Microsoft.AspNetCore.Mvc;
using Sexton.Core.Catalogue;
using Sexton.Core.Sentences;
using Sexton.Server.Common;
using Sexton.Server.Settings;
using Sexton.Server.Speech;
using Sexton.Server.Versions;

namespace Sexton.Server.Shop;

/// <summary>The catalogue, and what the pages of the shop need to know of it.</summary>
internal static class CatalogueEndpoints
{
    // A catalogue of more is shown category by category: the first of each, and further ones when they are asked for.
    private const int OfEachCategory = 8,
        AtATime = 60;

    public static void MapCatalogue(this IEndpointRouteBuilder shop)
    {
        shop.MapGet("catalogue", ReadAsync).WithName("GetCatalogue");
        shop.MapGet("catalogue/products", MoreAsync).WithName("GetMoreProducts");
    }

    private static async Task<CatalogueView> ReadAsync(
        SextonOptions options,
        ShopSettings settings,
        CatalogueLook look,
        HttpContext http,
        CancellationToken cancel
    )
    {
        var (view, known, own, language) = await look.AtAsync(http, cancel);
        var categories = known
            .All.SelectMany(static p => p.Categories.Select(c => (Category: c, p.Code)))
            .GroupBy(static p => p.Category, StringComparer.Ordinal)
            .Select(g => new ListedCategory(
                g.Key,
                own.CategoryIn(g.Key, language),
                g.Count(),
                [.. g.Take(known.IsLarge ? OfEachCategory : int.MaxValue).Select(static p => p.Code)]
            ))
            .ToList();
        var shown = categories.SelectMany(static c => c.First).ToHashSet(StringComparer.Ordinal);
        return new CatalogueView(
            options.ShopName,
            options.PaymentsUrl,
            settings.Now.ProductSum,
            categories,
            [.. known.All.Where(p => shown.Contains(p.Code)).Select(view)]
        );
    }

    private static async Task<IReadOnlyList<ProductView>> MoreAsync(
        [FromQuery] string? category,
        [FromQuery] int? from,
        [FromQuery] string[]? code,
        CatalogueLook look,
        HttpContext http,
        CancellationToken cancel
    )
    {
        var (view, known, _, _) = await look.AtAsync(http, cancel);
        var asked = category is null
            ? (code ?? []).Distinct(StringComparer.Ordinal).Select(known.Find).OfType<Product>()
            : known.All.Where(p => p.Categories.Contains(category, StringComparer.Ordinal)).Skip(Math.Max(0, from ?? 0));
        return [.. asked.Take(AtATime).Select(view)];
    }
}

/// <summary>The catalogue as a shopper sees it.</summary>
internal sealed class CatalogueLook(CurrentRegister current, ShopClock clock, ShopLanguage languages)
{
    /// <summary>How a product is shown to whoever asks, in their language, and from what.</summary>
    public async Task<(Func<Product, ProductView> View, ProductIndex Known, OwnSentences Own, string Language)> AtAsync(
        HttpContext http,
        CancellationToken cancel
    )
    {
        var language = languages.Of(http);
        var (version, known) = await current.ToldLastAsync(cancel);
        var (prices, own) = (new PricesBefore(version.Plan, known, clock.Today, language), version.Plan.Content.Wording);
        return (product => View(product, prices, own, language), known, own, language);
    }

    private static ProductView View(Product product, PricesBefore prices, OwnSentences own, string language) =>
        new(
            product.Code,
            product.Name.In(language),
            product.Description.In(language),
            [.. product.Categories.Select(c => new CategoryView(c, own.CategoryIn(c, language)))],
            prices.Of(product, null),
            product.Picture,
            product.PictureWords.In(language),
            [.. product.Variants.Select(v => new VariantView(v.Code, v.Name.In(language), prices.Of(product, v)))]
        );
}

/// <summary>The catalogue.</summary>
/// <param name="Shop">The name of the shop.</param>
/// <param name="PaymentsUrl">Where the browser gets a token for a card.</param>
/// <param name="ProductSum">What the page of a product shows of what it comes to.</param>
/// <param name="Categories">The categories, in the order in which they first come.</param>
/// <param name="Products">The products; of a large catalogue the first of each category.</param>
internal sealed record CatalogueView(
    string Shop,
    Uri PaymentsUrl,
    ProductSum ProductSum,
    IReadOnlyList<ListedCategory> Categories,
    IReadOnlyList<ProductView> Products
);

/// <summary>A category with its products.</summary>
/// <param name="Key">Its name in the catalogue.</param>
/// <param name="Name">What shoppers read.</param>
/// <param name="Count">How many products stand in it.</param>
/// <param name="First">The codes of the first of them, or of all.</param>
internal sealed record ListedCategory(string Key, string Name, int Count, IReadOnlyList<string> First);

/// <summary>A category, by its name in the catalogue and by what shoppers read.</summary>
internal sealed record CategoryView(string Key, string Name);

/// <summary>A product, and in which categories it stands.</summary>
internal sealed record ProductView(
    string Code,
    string Name,
    string Description,
    IReadOnlyList<CategoryView> Categories,
    string Price,
    string Picture,
    string PictureWords,
    IReadOnlyList<VariantView> Variants
);

/// <summary>A variant of a product.</summary>
internal sealed record VariantView(string Code, string Name, string Price);
