using Npgsql;

namespace Sexton.Data.Files;

/// <summary>
/// Reads a file from its pieces, from anywhere in it. No more than one piece is in memory at a time, however large the file is. Uses the
/// connection it was given, which nothing else may use meanwhile.
/// </summary>
public sealed class ChunkStream : Stream
{
    private readonly NpgsqlConnection _connection;
    private readonly Guid _file;
    private readonly long[] _starts;
    private byte[] _piece = [];
    private long _pieceStart;

    private ChunkStream(NpgsqlConnection connection, Guid file, long[] starts, long length) => (_connection, _file, _starts, Length) = (connection, file, starts, length);

    /// <inheritdoc/>
    public override bool CanRead => true;

    /// <inheritdoc/>
    public override bool CanSeek => true;

    /// <inheritdoc/>
    public override bool CanWrite => false;

    /// <inheritdoc/>
    public override long Length { get; }

    /// <inheritdoc/>
    public override long Position { get; set; }

    /// <summary>Opens a file.</summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="file">The id of the file.</param>
    /// <param name="length">How many bytes it has.</param>
    /// <param name="cancel">Cancels.</param>
    public static async Task<ChunkStream> OpenAsync(NpgsqlConnection connection, Guid file, long length, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand("select start from file_chunks where file_id = $1 order by start", connection) { Parameters = { new() { Value = file } } };
        await using var reader = await command.ExecuteReaderAsync(cancel);
        var starts = new List<long>();
        while (await reader.ReadAsync(cancel))
        {
            starts.Add(reader.GetInt64(0));
        }

        return new ChunkStream(connection, file, [.. starts], length);
    }

    /// <inheritdoc/>
    public override int Read(byte[] buffer, int offset, int count) => Read(buffer.AsSpan(offset, count));

    /// <inheritdoc/>
    public override int Read(Span<byte> buffer)
    {
        if (NeedsPiece())
        {
            using var command = PieceCommand();
            _piece = (byte[])command.ExecuteScalar()!;
        }

        return Copy(buffer);
    }

    /// <inheritdoc/>
    public override async ValueTask<int> ReadAsync(Memory<byte> buffer, CancellationToken cancellationToken = default)
    {
        if (NeedsPiece())
        {
            await using var command = PieceCommand();
            _piece = (byte[])(await command.ExecuteScalarAsync(cancellationToken))!;
        }

        return Copy(buffer.Span);
    }

    /// <inheritdoc/>
    public override Task<int> ReadAsync(byte[] buffer, int offset, int count, CancellationToken cancellationToken) => ReadAsync(buffer.AsMemory(offset, count), cancellationToken).AsTask();

    /// <inheritdoc/>
    public override long Seek(long offset, SeekOrigin origin) => Position = origin switch
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

        var at = Array.BinarySearch(_starts, Position);
        _pieceStart = _starts[at >= 0 ? at : ~at - 1];
        return true;
    }

    private NpgsqlCommand PieceCommand() => new("select bytes from file_chunks where file_id = $1 and start = $2", _connection) { Parameters = { new() { Value = _file }, new() { Value = _pieceStart } } };

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
