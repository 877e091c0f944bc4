using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;

namespace Sexton.Server.Hosting;

/// <summary>
/// Signed links to the page of an order: the id and an HMAC-SHA-256 over it, under a key derived from the installation's key
/// (HKDF, RFC 5869). Whoever has the link may see the order; nobody can make one.
/// </summary>
internal sealed class OrderLinks(SextonOptions options)
{
    private readonly byte[] _key = HKDF.DeriveKey(HashAlgorithmName.SHA256, options.KeyBytes()!, 32, info: "sexton order link 1"u8.ToArray());

    /// <summary>The token of an order.</summary>
    public string TokenFor(Guid order)
    {
        var id = order.ToString("N");
        return id + "." + Base64Url.EncodeToString(Sign(id));
    }

    /// <summary>The address of the page of an order.</summary>
    public string LinkTo(Guid order) => new Uri(options.PublicUrl, "/orders/" + TokenFor(order)).ToString();

    /// <summary>The address of a file of an order, by the SHA-256 of the file: for whoever may see the page of the order.</summary>
    public string LinkToFile(Guid order, string sha256) => new Uri(options.PublicUrl, $"/api/shop/v1/orders/{TokenFor(order)}/files/{sha256}").ToString();

    /// <summary>The order of a token, or null when it was not signed here.</summary>
    public Guid? Read(string token)
    {
        var dot = token.IndexOf('.', StringComparison.Ordinal);
        if (dot < 0 || !Guid.TryParseExact(token[..dot], "N", out var order))
        {
            return null;
        }

        var expected = TokenFor(order);
        return CryptographicOperations.FixedTimeEquals(Encoding.ASCII.GetBytes(expected), Encoding.ASCII.GetBytes(token)) ? order : null;
    }

    private byte[] Sign(string id) => HMACSHA256.HashData(_key, Encoding.ASCII.GetBytes(id));
}
