using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Pricing;
using Sexton.Core.Register;
using Sexton.Core.Register.Types;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Hosting;

namespace Sexton.Server.Shop;

/// <summary>The catalogue, and what the pages of the shop need to know of it.</summary>
internal static class CatalogueEndpoints
{
    public static void MapCatalogue(this IEndpointRouteBuilder shop) => shop.MapGet("catalogue", ReadAsync).WithName("GetCatalogue");

    private static async Task<CatalogueView> ReadAsync(SextonDb db, SextonOptions options, CancellationToken cancel)
    {
        var products = await db.Products.AsNoTracking().OrderBy(p => p.Position).ToListAsync(cancel);
        return new CatalogueView(
            options.ShopName,
            options.PaymentsUrl,
            PostalAddress.Countries,
            [.. products.Select(p => View(p, options.Currency))]);
    }

    private static ProductView View(ProductRow row, string currency) => new(
        row.Code,
        Text(row.Name),
        Text(row.Description),
        row.Category,
        MoneyText.Format(row.PriceMinor, currency, LanguageMap.Fallback),
        row.Picture);

    private static string Text(string json) => JsonSerializer.Deserialize<LanguageMap>(json)!.ToString();
}

/// <summary>The catalogue.</summary>
/// <param name="Shop">The name of the shop.</param>
/// <param name="PaymentsUrl">Where the browser gets a token for a card.</param>
/// <param name="Countries">The countries delivered to, by code.</param>
/// <param name="Products">The products.</param>
internal sealed record CatalogueView(string Shop, Uri PaymentsUrl, IReadOnlyDictionary<string, string> Countries, IReadOnlyList<ProductView> Products);

/// <summary>A product.</summary>
internal sealed record ProductView(string Code, string Name, string Description, string Category, string Price, string Picture);
