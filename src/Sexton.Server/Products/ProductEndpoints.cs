using System.Security.Claims;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Values;
using Sexton.Data;
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
        CancellationToken cancel
    )
    {
        // Whoever imports the catalogue meanwhile waits, and writes over what they bring themselves.
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var row =
            await db.Products.FromSql($"select * from products where code = {code} for update").SingleOrDefaultAsync(cancel)
            ?? throw ApiProblemException.NotFound($"There is no product “{code}”.");
        if (change.Picture is { } picture)
        {
            if (picture.Length > 0 && !(PictureName.IsValid(picture) && await pictures.HasAsync(picture, cancel)))
            {
                throw ApiProblemException.Unprocessable("picture_refused", $"There is no picture “{picture}”. Put it in first.");
            }

            record.Write(user, $"gave {code} {(picture.Length > 0 ? "another picture" : "no picture")}");
            row.Picture = picture;
        }

        if (change.PictureWords is { } words)
        {
            var details = JsonSerializer.Deserialize<ProductDetails>(row.Details, DocumentJson.Options)!;
            if (!CanonicalText.TryMake(words, out var said) || !Graphemes.FitIn(said, LongestWords))
            {
                throw ApiProblemException.Unprocessable(
                    "words_refused",
                    $"Say in at most {LongestWords} characters what the picture shows."
                );
            }

            row.Details = JsonSerializer.Serialize(
                details with
                {
                    PictureWords = details.PictureWords.With(LanguageMap.Fallback, said),
                },
                DocumentJson.Options
            );
        }

        await db.SaveChangesAsync(cancel);
        await db.Database.ExecuteSqlAsync($"update catalogue_state set revision = revision + 1", cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.NoContent();
    }
}

/// <summary>What is set of a product; what is left out stays as it is.</summary>
/// <param name="Picture">The name of a picture that is kept; "" for none.</param>
/// <param name="PictureWords">What the picture shows, for those who cannot see it; "" where it says nothing more than the name.</param>
internal sealed record ProductChange(string? Picture = null, string? PictureWords = null);
