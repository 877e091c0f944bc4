using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Values;
using Sexton.Data;
using Sexton.Data.Products;
using Sexton.Server.Accounts;
using Sexton.Server.Common;
using Sexton.Server.Files;
using Sexton.Server.Versions;

namespace Sexton.Server.Products;

/// <summary>What staff set of a product: the rest comes with the catalogue.</summary>
internal static class ProductEndpoints
{
    private const int LongestWords = 300;

    public static void MapProducts(this IEndpointRouteBuilder register) =>
        register.MapPatch("products/{code}", ChangeAsync).WithName("ChangeProduct");

    private static async Task<IResult> ChangeAsync(
        string code,
        ProductChange change,
        ClaimsPrincipal user,
        SextonDb db,
        ShopPictures pictures,
        ShopRecord record,
        CurrentNumbers numbers,
        CancellationToken cancel
    )
    {
        // Whoever brings in a catalogue meanwhile waits, and writes over what they bring themselves.
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var products = new ProductStore(db);
        await products.TakeAsync(cancel);
        var row =
            await db.Products.AsNoTracking().SingleOrDefaultAsync(p => p.Code == code, cancel)
            ?? throw ApiProblemException.NotFound($"There is no product “{code}”.");
        var product = ProductStore.Open(row);
        if (change.Picture is { } picture)
        {
            if (picture.Length > 0 && !(PictureName.IsValid(picture) && await pictures.HasAsync(picture, cancel)))
            {
                throw ApiProblemException.Unprocessable("picture_refused", $"There is no picture “{picture}”. Put it in first.");
            }

            record.Write(user, $"gave {code} {(picture.Length > 0 ? "another picture" : "no picture")}");
            product = product with { Picture = picture };
        }

        if (change.PictureWords is { } words)
        {
            if (!CanonicalText.TryMake(words, out var said) || !Graphemes.FitIn(said, LongestWords))
            {
                throw ApiProblemException.Unprocessable(
                    "words_refused",
                    $"Say in at most {LongestWords} characters what the picture shows."
                );
            }

            product = product with { PictureWords = product.PictureWords.With(LanguageMap.Fallback, said) };
        }

        await products.WriteAsync([product], cancel);
        await products.TellAsync(cancel);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        numbers.Forget();
        return TypedResults.NoContent();
    }
}

/// <summary>What is set of a product; what is left out stays as it is.</summary>
/// <param name="Picture">The name of a picture that is kept; "" for none.</param>
/// <param name="PictureWords">What the picture shows, for those who cannot see it; "" where it says nothing more than the name.</param>
internal sealed record ProductChange(string? Picture = null, string? PictureWords = null);
