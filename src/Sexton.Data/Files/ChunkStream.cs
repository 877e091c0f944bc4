using Microsoft.EntityFrameworkCore;
using Sexton.Data.Sealing;

namespace Sexton.Data.Files;

/// <summary>
/// Reads a file from its pieces, from anywhere in it. No more than one piece is in memory at a time, however large the file is, and no
/// connection is kept between two of them, however slowly they are read.
/// </summary>
/// <param name="db">The database.</param>
/// <param name="file">The id of the file.</param>
/// <param name="starts">Where its pieces begin, in rising order.</param>
/// <param name="length">How many bytes it has.</param>
/// <param name="key">The key of the file.</param>
public sealed class ChunkStream(SextonDb db, Guid file, long[] starts, long length, DataKey key) : Stream
{
    private byte[] _piece = [];
    private long _pieceStart;

    /// <inheritdoc/>
    public override bool CanRead => true;

    /// <inheritdoc/>
    public override bool CanSeek => true;

    /// <inheritdoc/>
    public override bool CanWrite => false;

    /// <inheritdoc/>
    public override long Length => length;

    /// <inheritdoc/>
    public override long Position { get; set; }

    /// <inheritdoc/>
    public override int Read(byte[] buffer, int offset, int count) => Read(buffer.AsSpan(offset, count));

    /// <inheritdoc/>
    public override int Read(Span<byte> buffer)
    {
        if (NeedsPiece())
        {
            _piece = Open(Piece.Single());
        }

        return Copy(buffer);
    }

    /// <inheritdoc/>
    public override async ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
    {
        if (NeedsPiece())
        {
            _piece = Open(await Piece.SingleAsync(cancellationToken));
        }

        return Copy(buffer.Span);
    }

    /// <inheritdoc/>
    public override Task<int> ReadAsync(byte[] buffer, int offset, int count, CancellationToken cancellationToken) =>
        ReadAsync(buffer.AsMemory(offset, count), cancellationToken).AsTask();

    /// <inheritdoc/>
    public override long Seek(long offset, SeekOrigin origin) =>
        Position = origin switch
        {
            SeekOrigin.Begin => offset,
            SeekOrigin.Current => Position + offset,
            _ => Length + offset,
        };

    /// <inheritdoc/>
    public override void Flush()
    {
        // Nothing is written.
    }

    /// <inheritdoc/>
    public override void SetLength(long value) => throw new NotSupportedException();

    /// <inheritdoc/>
    public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();

    private bool NeedsPiece()
    {
        if (Position >= Length || (Position >= _pieceStart && Position < _pieceStart + _piece.Length))
        {
            return false;
        }

        var at = Array.BinarySearch(starts, Position);
        _pieceStart = starts[at >= 0 ? at : ~at - 1];
        return true;
    }

    private IQueryable<byte[]> Piece => db.FileChunks.Where(c => c.FileId == file && c.Start == _pieceStart).Select(static c => c.Bytes);

    private byte[] Open(byte[] piece) => key.Open(piece, FileStore.PiecePurpose(_pieceStart));

    private int Copy(Span<byte> buffer)
    {
        if (Position >= Length)
        {
            return 0;
        }

        var from = (int)(Position - _pieceStart);
        var count = Math.Min(buffer.Length, _piece.Length - from);
        _piece.AsSpan(from, count).CopyTo(buffer);
        Position += count;
        return count;
    }
}
