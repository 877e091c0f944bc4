using System.Security.Claims;
using Microsoft.AspNetCore.Mvc;
using Sexton.Core.Files;
using Sexton.Data;
using Sexton.Server.Accounts;
using Sexton.Server.Common;
using Sexton.Server.Settings;

namespace Sexton.Server.Files;

/// <summary>The picture of the shop's letterhead: put there, looked at and taken away.</summary>
internal static class LetterheadEndpoints
{
    private const int MostBytes = 1024 * 1024,
        MostPixels = 4_000_000;

    public static void MapLetterhead(this IEndpointRouteBuilder shop)
    {
        shop.MapGet("letterhead", ReadAsync).WithName("GetLetterhead");
        shop.MapPut("letterhead", WriteAsync)
            .WithName("WriteLetterhead")
            .WithMetadata(new RequestSizeLimitAttribute(MostBytes))
            .Produces(StatusCodes.Status204NoContent);
        shop.MapDelete("letterhead", RemoveAsync).WithName("RemoveLetterhead");
    }

    private static async Task<LetterheadView> ReadAsync(LetterheadPicture letterhead, CancellationToken cancel)
    {
        await letterhead.ReadAsync(cancel);
        return new LetterheadView(letterhead.Now);
    }

    private static async Task<IResult> WriteAsync(
        HttpRequest request,
        ClaimsPrincipal user,
        SextonDb db,
        PictureMaker pictures,
        LetterheadPicture letterhead,
        ShopRecord record,
        CancellationToken cancel
    )
    {
        using var file = new MemoryStream();
        await request.Body.CopyToAsync(file, cancel);
        var kind = FileTypeDetector.Tell(file);
        var made = kind is "png" or "jpeg" ? await pictures.MakeAsync(file, upright: true, MostPixels, cancel) : null;
        if (made?.Upright is not { } bytes)
        {
            throw Refused(
                made is null
                    ? "That is no picture that can be printed. Choose a PNG or a JPEG."
                    : $"That picture has {made.Width} by {made.Height} pixels. Choose one of at most {MostPixels / 1_000_000} million."
            );
        }

        await LetterheadPicture.PutAsync(db, FileKinds.Find(kind)!.MediaType, bytes, cancel);
        record.Write(user, "put a picture on the letterhead");
        await db.SaveChangesAsync(cancel);
        await letterhead.ReadAsync(cancel);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> RemoveAsync(
        ClaimsPrincipal user,
        SextonDb db,
        LetterheadPicture letterhead,
        ShopRecord record,
        CancellationToken cancel
    )
    {
        if (await LetterheadPicture.FindAsync(db, cancel) is { } row)
        {
            db.ShopPictures.Remove(row);
            record.Write(user, "took the picture off the letterhead");
            await db.SaveChangesAsync(cancel);
            await letterhead.ReadAsync(cancel);
        }

        return TypedResults.NoContent();
    }

    private static ApiProblemException Refused(string why) => ApiProblemException.Unprocessable("letterhead_refused", why);
}

/// <summary>The letterhead of the shop.</summary>
/// <param name="Picture">The picture over its name, as a data URI (RFC 2397); null for none.</param>
internal sealed record LetterheadView(string? Picture);
