using System.Security.Cryptography;
using Microsoft.EntityFrameworkCore;
using Sexton.Core.Files;
using Sexton.Data;
using Sexton.Data.Rows;
using Sexton.Server.Common;

namespace Sexton.Server.Files;

/// <summary>
/// The pictures of fields, choices and products: those that came with the shop as files, and those that were put in from the console. A picture is named by
/// its content and never changes, so that a version that shows it shows it for ever.
/// </summary>
internal sealed class ShopPictures(SextonDb db, PictureMaker pictures, IWebHostEnvironment host)
{
    /// <summary>The largest file that is taken, in bytes.</summary>
    public const int MostBytes = 12 * 1024 * 1024;

    /// <summary>Its longest side once it is kept, in pixels: enough for a screen of twice the dots.</summary>
    public const int MostSide = 960;

    private const int MostPixels = 50_000_000;

    /// <summary>Whether there is a picture of a name.</summary>
    public async Task<bool> HasAsync(string name, CancellationToken cancel) =>
        host.WebRootFileProvider.GetFileInfo("pictures/" + name).Exists || await db.ShopPictures.AnyAsync(p => p.Name == name, cancel);

    /// <summary>The names of all pictures.</summary>
    public async Task<IReadOnlySet<string>> NamesAsync(CancellationToken cancel) =>
        host
            .WebRootFileProvider.GetDirectoryContents("pictures")
            .Select(static f => f.Name)
            .Concat(await db.ShopPictures.Select(static p => p.Name).ToListAsync(cancel))
            .ToHashSet(StringComparer.Ordinal);

    /// <summary>The first of several names that is none; null where all are there.</summary>
    public async Task<string?> FirstMissingAsync(IEnumerable<string> names, CancellationToken cancel)
    {
        foreach (var name in names)
        {
            if (!await HasAsync(name, cancel))
            {
                return name;
            }
        }

        return null;
    }

    /// <summary>A picture that was put in; null where there is none of that name.</summary>
    public Task<ShopPictureRow?> FindAsync(string name, CancellationToken cancel) =>
        db.ShopPictures.AsNoTracking().SingleOrDefaultAsync(p => p.Name == name, cancel);

    /// <summary>Keeps a picture, made small, and gives the name under which it is shown. The same twice is one.</summary>
    /// <exception cref="ApiProblemException">It is no picture that can be shown.</exception>
    public async Task<string> KeepAsync(Stream file, CancellationToken cancel)
    {
        var kind = FileTypeDetector.Tell(file);
        var made = kind is "png" or "jpeg" or "webp" ? await pictures.MakeAsync(file, upright: true, MostPixels, cancel, MostSide) : null;
        if (made?.Upright is not { } bytes)
        {
            throw ApiProblemException.Unprocessable(
                "picture_refused",
                made is null
                    ? "That is no picture that can be shown. Choose a PNG, a JPEG or a WebP."
                    : $"That picture has {made.Width} by {made.Height} pixels. Choose one of at most {MostPixels / 1_000_000} million."
            );
        }

        var name = $"p-{Convert.ToHexStringLower(SHA256.HashData(bytes))[..24]}.{(kind == "jpeg" ? "jpg" : kind)}";
        await db.Database.ExecuteSqlAsync(
            $"insert into shop_pictures (name, media_type, bytes, stamp) values ({name}, {FileKinds.Find(kind)!.MediaType}, {bytes}, {Guid.NewGuid()}) on conflict (name) do nothing",
            cancel
        );
        return name;
    }
}
