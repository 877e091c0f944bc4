using SkiaSharp;

namespace Sexton.Server.Files;

/// <summary>What was made of a picture.</summary>
/// <param name="Width">The width in pixels, upright.</param>
/// <param name="Height">The height in pixels, upright.</param>
/// <param name="Thumbnail">A small picture of it (JPEG); null where it was not opened.</param>
/// <param name="Upright">The picture itself, upright and without anything beside it, in the format in which it came; null where it was not asked for.</param>
internal sealed record MadePicture(int Width, int Height, byte[]? Thumbnail, byte[]? Upright);

/// <summary>
/// Opens pictures. One is written anew from its pixels alone, so that nothing of what a camera or anybody else wrote beside them is left: neither
/// where it was taken, nor which way up it has to be turned.
/// </summary>
internal sealed class PictureMaker : IDisposable
{
    private const int ThumbnailSide = 320;
    private const int ThumbnailQuality = 80;

    // Where a second compression of a photograph cannot be seen.
    private const int Quality = 92;

    // An opened picture takes four bytes a pixel, twice while it is turned: one at a time.
    private readonly SemaphoreSlim _one = new(1);

    /// <summary>Makes them of a picture; null when it cannot be opened, or was cut off.</summary>
    /// <param name="file">The picture.</param>
    /// <param name="upright">Whether the picture itself is written anew.</param>
    /// <param name="mostPixels">A picture with more is not opened: only its size is told.</param>
    /// <param name="cancel">Cancels the wait for its turn.</param>
    /// <param name="mostSide">How long a side of what is written anew may be, in pixels; null for as long as it is.</param>
    public async Task<MadePicture?> MakeAsync(Stream file, bool upright, int mostPixels, CancellationToken cancel, int? mostSide = null)
    {
        await _one.WaitAsync(cancel);
        try
        {
            return Make(file, upright, mostPixels, mostSide);
        }
        finally
        {
            _one.Release();
        }
    }

    /// <inheritdoc/>
    public void Dispose() => _one.Dispose();

    private static MadePicture? Make(Stream file, bool upright, int mostPixels, int? mostSide)
    {
        file.Position = 0;
        using var held = new SKManagedStream(file);
        using var codec = SKCodec.Create(held);
        if (codec is null)
        {
            return null;
        }

        var origin = codec.EncodedOrigin;
        var lies =
            origin is SKEncodedOrigin.LeftTop or SKEncodedOrigin.RightTop or SKEncodedOrigin.RightBottom or SKEncodedOrigin.LeftBottom;
        var (width, height) = lies ? (codec.Info.Height, codec.Info.Width) : (codec.Info.Width, codec.Info.Height);
        if ((long)width * height > mostPixels)
        {
            return new MadePicture(width, height, null, null);
        }

        using var colours = SKColorSpace.CreateSrgb();
        using var opened = new SKBitmap(
            new SKImageInfo(
                codec.Info.Width,
                codec.Info.Height,
                SKColorType.Rgba8888,
                codec.Info.AlphaType == SKAlphaType.Opaque ? SKAlphaType.Opaque : SKAlphaType.Premul,
                colours
            )
        );
        if (codec.GetPixels(opened.Info, opened.GetPixels()) != SKCodecResult.Success)
        {
            return null;
        }

        using var turned = origin == SKEncodedOrigin.TopLeft ? null : Turn(opened, origin, width, height);
        var picture = turned ?? opened;
        return new MadePicture(width, height, Thumbnail(picture), upright ? Write(picture, codec.EncodedFormat, mostSide) : null);
    }

    // The eight ways of Exif 2.3, 4.6.4 A, tag 274.
    private static SKBitmap Turn(SKBitmap picture, SKEncodedOrigin origin, int width, int height)
    {
        var turned = new SKBitmap(picture.Info.WithSize(width, height));
        using var canvas = new SKCanvas(turned);
        var (w, h) = (picture.Width, picture.Height);
        canvas.SetMatrix(
            origin switch
            {
                SKEncodedOrigin.TopRight => new SKMatrix(-1, 0, w, 0, 1, 0, 0, 0, 1),
                SKEncodedOrigin.BottomRight => new SKMatrix(-1, 0, w, 0, -1, h, 0, 0, 1),
                SKEncodedOrigin.BottomLeft => new SKMatrix(1, 0, 0, 0, -1, h, 0, 0, 1),
                SKEncodedOrigin.LeftTop => new SKMatrix(0, 1, 0, 1, 0, 0, 0, 0, 1),
                SKEncodedOrigin.RightTop => new SKMatrix(0, -1, h, 1, 0, 0, 0, 0, 1),
                SKEncodedOrigin.RightBottom => new SKMatrix(0, -1, h, -1, 0, w, 0, 0, 1),
                _ => new SKMatrix(0, 1, 0, -1, 0, w, 0, 0, 1),
            }
        );
        canvas.Clear(SKColors.Transparent);
        canvas.DrawBitmap(picture, 0, 0, new SKSamplingOptions(SKFilterMode.Nearest), null);
        return turned;
    }

    // JPEG knows no transparency.
    private static byte[] Thumbnail(SKBitmap picture)
    {
        using var small = Small(picture, ThumbnailSide, SKAlphaType.Opaque);
        return Encode(small, SKEncodedImageFormat.Jpeg, ThumbnailQuality);
    }

    private static byte[] Write(SKBitmap picture, SKEncodedImageFormat format, int? mostSide)
    {
        using var small = mostSide < Math.Max(picture.Width, picture.Height) ? Small(picture, mostSide.Value, picture.AlphaType) : null;
        return Encode(small ?? picture, format, Quality);
    }

    private static SKBitmap Small(SKBitmap picture, int side, SKAlphaType alpha)
    {
        var scale = Math.Min(1f, (float)side / Math.Max(picture.Width, picture.Height));
        var size = new SKImageInfo(
            Math.Max(1, (int)MathF.Round(picture.Width * scale)),
            Math.Max(1, (int)MathF.Round(picture.Height * scale)),
            SKColorType.Rgba8888,
            alpha
        );
        var small = new SKBitmap(size);
        using var canvas = new SKCanvas(small);
        canvas.Clear(alpha == SKAlphaType.Opaque ? SKColors.White : SKColors.Transparent);
        using var image = SKImage.FromBitmap(picture);
        canvas.DrawImage(image, SKRect.Create(size.Width, size.Height), new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
        return small;
    }

    private static byte[] Encode(SKBitmap picture, SKEncodedImageFormat format, int quality)
    {
        using var written =
            picture.Encode(format, quality) ?? throw new InvalidOperationException($"A picture could not be written as {format}.");
        return written.ToArray();
    }
}
