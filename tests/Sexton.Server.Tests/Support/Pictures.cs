using System.Buffers.Binary;
using System.Text;
using SkiaSharp;

namespace Sexton.Server.Tests.Support;

/// <summary>Pictures as cameras make them.</summary>
internal static class Pictures
{
    /// <summary>The words that stand where a camera writes the place.</summary>
    public const string Place = "53.3498 N 6.2603 W";

    /// <summary>A JPEG whose left half is red and whose right half is blue.</summary>
    public static byte[] Jpeg(int width, int height, int orientation = 1)
    {
        using var picture = new SKBitmap(width, height);
        using (var canvas = new SKCanvas(picture))
        {
            canvas.Clear(SKColors.Red);
            using var paint = new SKPaint { Color = SKColors.Blue };
            canvas.DrawRect(width / 2f, 0, width, height, paint);
        }

        using var encoded = picture.Encode(SKEncodedImageFormat.Jpeg, 95);
        return WithExif(encoded.ToArray(), (ushort)orientation);
    }

    /// <summary>The colour of a picture at a place, and its size.</summary>
    public static (int Width, int Height, SKColor Colour) Look(byte[] bytes, double x, double y)
    {
        using var picture = SKBitmap.Decode(bytes);
        return (picture.Width, picture.Height, picture.GetPixel((int)(x * picture.Width), (int)(y * picture.Height)));
    }

    // An APP1 segment as of Exif 2.3, 4.5: TIFF header, and a directory with orientation (274) and image description (270), here a place in words.
    private static byte[] WithExif(byte[] jpeg, ushort orientation)
    {
        var place = Encoding.ASCII.GetBytes(Place + "\0");
        var tiff = new byte[8 + 2 + 24 + 4 + place.Length];
        "MM\0*"u8.CopyTo(tiff);
        BinaryPrimitives.WriteUInt32BigEndian(tiff.AsSpan(4), 8);
        BinaryPrimitives.WriteUInt16BigEndian(tiff.AsSpan(8), 2);
        Entry(tiff.AsSpan(10), 270, 2, (uint)place.Length, 38);
        Entry(tiff.AsSpan(22), 274, 3, 1, (uint)orientation << 16);
        place.CopyTo(tiff, 38);
        byte[] segment = [0xFF, 0xE1, 0, 0, .. "Exif\0\0"u8, .. tiff];
        BinaryPrimitives.WriteUInt16BigEndian(segment.AsSpan(2), (ushort)(segment.Length - 2));
        return [.. jpeg[..2], .. segment, .. jpeg[2..]];
    }

    private static void Entry(Span<byte> at, ushort tag, ushort type, uint count, uint value)
    {
        BinaryPrimitives.WriteUInt16BigEndian(at, tag);
        BinaryPrimitives.WriteUInt16BigEndian(at[2..], type);
        BinaryPrimitives.WriteUInt32BigEndian(at[4..], count);
        BinaryPrimitives.WriteUInt32BigEndian(at[8..], value);
    }
}
