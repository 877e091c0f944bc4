using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;

namespace Sexton.Server.Hosting;

/// <summary>
/// Signs short texts for links: the text, a dot, and an HMAC-SHA-256 over it, under a key derived from the installation's key for one purpose
/// (HKDF, RFC 5869). Nobody else can make one, and one made for another purpose does not count.
/// </summary>
/// <param name="options">Holds the installation's key.</param>
/// <param name="purpose">What the key is derived for.</param>
internal sealed class TextSigner(SextonOptions options, string purpose)
{
    private readonly byte[] _key = HKDF.DeriveKey(HashAlgorithmName.SHA256, options.KeyBytes()!, 32, info: Encoding.ASCII.GetBytes(purpose));

    /// <summary>The token of a text of ASCII.</summary>
    public string Sign(string text) => text + "." + Base64Url.EncodeToString(HMACSHA256.HashData(_key, Encoding.ASCII.GetBytes(text)));

    /// <summary>The text of a token, or null when it was not signed here.</summary>
    public string? Read(string token)
    {
        var text = token[..Math.Max(0, token.LastIndexOf('.'))];
        return CryptographicOperations.FixedTimeEquals(Encoding.ASCII.GetBytes(Sign(text)), Encoding.ASCII.GetBytes(token)) ? text : null;
    }
}
