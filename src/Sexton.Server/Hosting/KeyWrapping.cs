using System.Security.Cryptography;
using System.Xml.Linq;
using Microsoft.AspNetCore.DataProtection.XmlEncryption;

namespace Sexton.Server.Hosting;

/// <summary>Wraps the keys that lie in the database with AES-256-GCM, so that a copy of the database alone opens nothing.</summary>
internal sealed class KeyWrapper(SextonOptions options) : IXmlEncryptor
{
    internal const int NonceSize = 12,
        TagSize = 16;

    /// <inheritdoc/>
    public EncryptedXmlInfo Encrypt(XElement plaintextElement)
    {
        var plain = System.Text.Encoding.UTF8.GetBytes(plaintextElement.ToString(SaveOptions.DisableFormatting));
        var (nonce, cipher, tag) = (RandomNumberGenerator.GetBytes(NonceSize), new byte[plain.Length], new byte[TagSize]);
        using var aes = new AesGcm(WrappingKey(options), TagSize);
        aes.Encrypt(nonce, plain, cipher, tag);
        return new EncryptedXmlInfo(new XElement("wrapped", Convert.ToBase64String([.. nonce, .. tag, .. cipher])), typeof(KeyUnwrapper));
    }

    internal static byte[] WrappingKey(SextonOptions options) =>
        HKDF.DeriveKey(HashAlgorithmName.SHA256, options.KeyBytes()!, 32, info: "sexton key ring 1"u8.ToArray());
}

/// <summary>Opens what <see cref="KeyWrapper"/> wrapped.</summary>
internal sealed class KeyUnwrapper(IServiceProvider services) : IXmlDecryptor
{
    /// <inheritdoc/>
    public XElement Decrypt(XElement encryptedElement)
    {
        var bytes = Convert.FromBase64String(encryptedElement.Value).AsSpan();
        var plain = new byte[bytes.Length - KeyWrapper.NonceSize - KeyWrapper.TagSize];
        using var aes = new AesGcm(KeyWrapper.WrappingKey(services.GetRequiredService<SextonOptions>()), KeyWrapper.TagSize);
        aes.Decrypt(
            bytes[..KeyWrapper.NonceSize],
            bytes[(KeyWrapper.NonceSize + KeyWrapper.TagSize)..],
            bytes.Slice(KeyWrapper.NonceSize, KeyWrapper.TagSize),
            plain
        );
        return XElement.Parse(System.Text.Encoding.UTF8.GetString(plain));
    }
}
