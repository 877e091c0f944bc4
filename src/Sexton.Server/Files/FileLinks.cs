using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;
using Sexton.Server.Hosting;

namespace Sexton.Server.Files;

/// <summary>
/// Signed links to one file of an order, for a system that is not a person and cannot sign in: the order, the SHA-256 of the file, and an
/// HMAC-SHA-256 over both, under a key derived from the installation's key (HKDF, RFC 5869). Such a link opens this file and nothing else.
/// </summary>
internal sealed class FileLinks(SextonOptions options)
{
    private readonly byte[] _key = HKDF.DeriveKey(HashAlgorithmName.SHA256, options.KeyBytes()!, 32, info: "sexton file link 1"u8.ToArray());

    /// <summary>The address of a file of an order.</summary>
    public string LinkTo(Guid order, string sha256) => new Uri(options.PublicUrl, "/api/shop/v1/files/for/" + TokenFor(order, sha256)).ToString();

    /// <summary>The order and hash of a token, or null when it was not signed here.</summary>
    public (Guid Order, string Sha256)? Read(string token)
    {
        var parts = token.Split('.');
        return parts is [var id, { Length: 64 } sha256, _]
            && Guid.TryParseExact(id, "N", out var order)
            && CryptographicOperations.FixedTimeEquals(Encoding.ASCII.GetBytes(TokenFor(order, sha256)), Encoding.ASCII.GetBytes(token))
                ? (order, sha256)
                : null;
    }

    private string TokenFor(Guid order, string sha256)
    {
        var said = $"{order:N}.{sha256}";
        return said + "." + Base64Url.EncodeToString(HMACSHA256.HashData(_key, Encoding.ASCII.GetBytes(said)));
    }
}
