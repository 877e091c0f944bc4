using Microsoft.AspNetCore.Mvc;
using Sexton.Core.Values;

namespace Sexton.Server.Files;

/// <summary>The shop's pictures: put in by the manager, shown to everybody.</summary>
internal static class ShopPictureEndpoints
{
    /// <summary>Where they are put in.</summary>
    public static void MapPutPictures(this IEndpointRouteBuilder register) =>
        register
            .MapPost("pictures", KeepAsync)
            .WithName("KeepPicture")
            .WithMetadata(new RequestSizeLimitAttribute(ShopPictures.MostBytes))
            .Produces<PictureView>();

    /// <summary>Where they are shown, beside those that are files.</summary>
    public static void MapShowPictures(this IEndpointRouteBuilder app) =>
        app.MapGet("/pictures/{name}", ShowAsync).ExcludeFromDescription();

    private static async Task<PictureView> KeepAsync(HttpRequest request, ShopPictures pictures, CancellationToken cancel)
    {
        using var file = new MemoryStream();
        await request.Body.CopyToAsync(file, cancel);
        file.Position = 0;
        return new PictureView(await pictures.KeepAsync(file, cancel));
    }

    private static async Task<IResult> ShowAsync(string name, ShopPictures pictures, HttpResponse response, CancellationToken cancel)
    {
        if (!PictureName.IsValid(name) || await pictures.FindAsync(name, cancel) is not { } row)
        {
            return TypedResults.NotFound();
        }

        response.Headers.CacheControl = "public, max-age=31536000, immutable";
        return TypedResults.Bytes(row.Bytes, row.MediaType);
    }
}

/// <summary>A picture that is kept.</summary>
/// <param name="Name">The name under which fields and choices show it.</param>
internal sealed record PictureView(string Name);
