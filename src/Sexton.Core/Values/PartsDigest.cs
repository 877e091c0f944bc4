using System.Buffers;
using System.Globalization;
using System.Security.Cryptography;
using System.Text;

namespace Sexton.Core.Values;

/// <summary>
/// A digest over parts, one after another: the first half of SHA-256 (FIPS 180-4). A part ends where the next begins, so that "a", "bc" is another than "ab", "c".
/// </summary>
internal ref struct PartsDigest
{
    // No text that can be kept has it.
    private const byte End = 0;

    private byte[] _bytes = ArrayPool<byte>.Shared.Rent(4096);
    private int _length;

    public PartsDigest() { }

    /// <summary>Adds a text; null and "" are the same.</summary>
    public void Add(string? text)
    {
        MakeRoom(Encoding.UTF8.GetMaxByteCount(text?.Length ?? 0) + 1);
        _length += Encoding.UTF8.GetBytes(text, _bytes.AsSpan(_length));
        _bytes[_length++] = End;
    }

    /// <summary>Adds a number.</summary>
    public void Add(long number)
    {
        MakeRoom(21);
        number.TryFormat(_bytes.AsSpan(_length), out var written, default, CultureInfo.InvariantCulture);
        _length += written;
        _bytes[_length++] = End;
    }

    /// <summary>The digest, in hexadecimal digits. Nothing is added after it.</summary>
    public string Take()
    {
        Span<byte> hash = stackalloc byte[SHA256.HashSizeInBytes];
        SHA256.HashData(_bytes.AsSpan(0, _length), hash);
        ArrayPool<byte>.Shared.Return(_bytes);
        _bytes = [];
        return Convert.ToHexStringLower(hash[..(SHA256.HashSizeInBytes / 2)]);
    }

    private void MakeRoom(int more)
    {
        if (_bytes.Length - _length < more)
        {
            var larger = ArrayPool<byte>.Shared.Rent(Math.Max(_bytes.Length * 2, _length + more));
            _bytes.AsSpan(0, _length).CopyTo(larger);
            ArrayPool<byte>.Shared.Return(_bytes);
            _bytes = larger;
        }
    }
}
