using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;

namespace Sexton.Data.Sealing;

/// <summary>
/// The key of one order, cart or file. Seals with AES-256-GCM (NIST SP 800-38D): a number of the form, a random nonce of 12 bytes, a tag of 16, and the cipher
/// text. What it is for is authenticated too, so that nothing sealed can be put in another's place. Safe for use by several threads at once.
/// </summary>
public sealed class DataKey
{
    /// <summary>The number of bytes of a key.</summary>
    public const int Size = 32;

    private const int NonceSize = 12,
        TagSize = 16,
        Head = 1 + NonceSize + TagSize;

    private const byte Plain = 1,
        Packed = 2;

    internal DataKey(byte[] bytes) => Bytes = bytes;

    internal byte[] Bytes { get; }

    /// <summary>Seals bytes.</summary>
    /// <param name="bytes">The bytes.</param>
    /// <param name="purpose">What they are: "answer order/gate_code".</param>
    public byte[] Seal(ReadOnlySpan<byte> bytes, string purpose) => Seal(bytes, purpose, Plain);

    /// <summary>Seals a text.</summary>
    /// <inheritdoc cref="Seal(ReadOnlySpan{byte}, string)"/>
    public byte[] Seal(string text, string purpose) => Seal(Encoding.UTF8.GetBytes(text), purpose, Plain);

    /// <summary>Packs bytes and seals them: what repeats itself, such as an artefact, takes a third of the room.</summary>
    /// <inheritdoc cref="Seal(ReadOnlySpan{byte}, string)"/>
    public byte[] SealPacked(ReadOnlySpan<byte> bytes, string purpose)
    {
        var packed = new byte[BrotliEncoder.GetMaxCompressedLength(bytes.Length)];
        return BrotliEncoder.TryCompress(bytes, packed, out var length, quality: 4, window: 18) && length < bytes.Length
            ? Seal(packed.AsSpan(0, length), purpose, Packed)
            : Seal(bytes, purpose, Plain);
    }

    /// <summary>Opens what was sealed, packed or not.</summary>
    /// <param name="sealedBytes">What sealing gave.</param>
    /// <param name="purpose">What it must be.</param>
    /// <exception cref="CryptographicException">It was sealed by another key or for another purpose, or it was changed.</exception>
    public byte[] Open(byte[] sealedBytes, string purpose)
    {
        if (sealedBytes.Length < Head || sealedBytes[0] is not (Plain or Packed))
        {
            throw new CryptographicException("These bytes were not sealed here.");
        }

        var plain = new byte[sealedBytes.Length - Head];
        using var cipher = new AesGcm(Bytes, TagSize);
        cipher.Decrypt(
            sealedBytes.AsSpan(1, NonceSize),
            sealedBytes.AsSpan(Head),
            sealedBytes.AsSpan(1 + NonceSize, TagSize),
            plain,
            Encoding.UTF8.GetBytes(purpose)
        );
        return sealedBytes[0] == Packed ? Unpack(plain) : plain;
    }

    /// <summary>Opens a text that was sealed.</summary>
    /// <inheritdoc cref="Open"/>
    public string OpenText(byte[] sealedBytes, string purpose) => Encoding.UTF8.GetString(Open(sealedBytes, purpose));

    private byte[] Seal(ReadOnlySpan<byte> bytes, string purpose, byte form)
    {
        var made = new byte[Head + bytes.Length];
        made[0] = form;
        var nonce = made.AsSpan(1, NonceSize);
        RandomNumberGenerator.Fill(nonce);
        using var cipher = new AesGcm(Bytes, TagSize);
        cipher.Encrypt(nonce, bytes, made.AsSpan(Head), made.AsSpan(1 + NonceSize, TagSize), Encoding.UTF8.GetBytes(purpose));
        return made;
    }

    private static byte[] Unpack(byte[] packed)
    {
        using var from = new BrotliStream(new MemoryStream(packed), CompressionMode.Decompress);
        using var to = new MemoryStream();
        from.CopyTo(to);
        return to.ToArray();
    }
}
