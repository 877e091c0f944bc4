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
    public static void MapCatalogue(this IEndpointRouteBuilder shop) => shop.MapGet("catalogue", ReadAsync).WithName("GetCatalogue");

    private static async Task<CatalogueView> ReadAsync(
        SextonOptions options,
        CurrentRegister current,
        ShopClock clock,
        ShopSettings settings,
        ShopLanguage languages,
        HttpContext http,
        CancellationToken cancel
    )
    {
        var language = languages.Of(http);
        var (version, known) = await current.ToldLastAsync(cancel);
        var prices = new PricesBefore(version.Plan, known, clock.Today, language);
        return new CatalogueView(
            options.ShopName,
            options.PaymentsUrl,
            settings.Now.ProductSum,
            [.. known.All.Select(p => View(p, prices, version.Plan.Content.Wording, language))]
        );
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
/// <param name="Products">The products.</param>
internal sealed record CatalogueView(string Shop, Uri PaymentsUrl, ProductSum ProductSum, IReadOnlyList<ProductView> Products);

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
