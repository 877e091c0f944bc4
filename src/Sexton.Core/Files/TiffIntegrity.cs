using System.Buffers.Binary;

namespace Sexton.Core.Files;

/// <summary>
/// Whether a TIFF is all there: its first directory lies in the file, and so do the strips or tiles that it names (TIFF 6.0, sections 2 and 15).
/// </summary>
internal sealed class TiffIntegrity
{
    private const int StripOffsets = 273,
        StripCounts = 279,
        TileOffsets = 324,
        TileCounts = 325;
    private const int Short = 3,
        Long = 4;
    private const int EntrySize = 12;

    // More strips than a picture has rows are none.
    private const int MostParts = 1_000_000;

    private readonly Stream _file;
    private readonly bool _bigEndian;

    private TiffIntegrity(Stream file, bool bigEndian) => (_file, _bigEndian) = (file, bigEndian);

    /// <summary>Whether it is all there.</summary>
    /// <param name="file">The bytes, beginning with the signature of a TIFF.</param>
    /// <param name="bigEndian">Whether its numbers begin with the greatest byte ("MM").</param>
    public static bool Is(Stream file, bool bigEndian) => new TiffIntegrity(file, bigEndian).Check();

    private bool Check()
    {
        if (
            Read(4, 4) is not { } header
            || Read(Number(header), 2) is not { } size
            || Read(Number(header) + 2, Number(size) * EntrySize) is not { } entries
        )
        {
            return false;
        }

        var fields = entries.Chunk(EntrySize).ToLookup(e => (int)Number(e.AsSpan(0, 2)));
        var (offsets, counts) = fields.Contains(StripOffsets)
            ? (Values(fields[StripOffsets].First()), Values(fields[StripCounts].FirstOrDefault()))
            : (Values(fields[TileOffsets].FirstOrDefault()), Values(fields[TileCounts].FirstOrDefault()));
        return offsets is { Length: > 0 }
            && offsets.Length == counts?.Length
            && offsets.Zip(counts).All(p => p.First + p.Second <= _file.Length);
    }

    // The numbers of an entry: in it where they fit, else where it points to.
    private long[]? Values(byte[]? entry)
    {
        if (entry is null)
        {
            return null;
        }

        var (type, count) = ((int)Number(entry.AsSpan(2, 2)), Number(entry.AsSpan(4, 4)));
        var width = type switch
        {
            Short => 2,
            Long => 4,
            _ => 0,
        };
        if (width == 0 || count > MostParts)
        {
            return null;
        }

        var bytes = count * width <= 4 ? entry[8..(8 + (int)(count * width))] : Read(Number(entry.AsSpan(8, 4)), count * width);
        return bytes?.Chunk(width).Select(v => Number(v)).ToArray();
    }

    private byte[]? Read(long at, long length)
    {
        if (at + length > _file.Length)
        {
            return null;
        }

        var bytes = new byte[length];
        _file.Position = at;
        _file.ReadExactly(bytes);
        return bytes;
    }

    private long Number(ReadOnlySpan<byte> bytes) =>
        (bytes.Length, _bigEndian) switch
        {
            (2, true) => BinaryPrimitives.ReadUInt16BigEndian(bytes),
            (2, false) => BinaryPrimitives.ReadUInt16LittleEndian(bytes),
            (_, true) => BinaryPrimitives.ReadUInt32BigEndian(bytes),
            _ => BinaryPrimitives.ReadUInt32LittleEndian(bytes),
        };
}
