using System.Buffers.Text;
using System.Globalization;
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

    /// <summary>The token of a text of ASCII that counts until the end of a day, in UTC.</summary>
    public string SignUntil(string text, DateOnly last) => Sign($"{text}.{last.DayNumber.ToString(CultureInfo.InvariantCulture)}");

    /// <summary>The text of a token of <see cref="SignUntil"/>; null when it was not signed here.</summary>
    /// <exception cref="ApiProblemException">It was, and has run out.</exception>
    public string? ReadUntil(string token, DateOnly today)
    {
        var text = Read(token);
        var dot = text?.LastIndexOf('.') ?? -1;
        if (dot < 0 || !int.TryParse(text.AsSpan(dot + 1), NumberStyles.None, CultureInfo.InvariantCulture, out var last))
        {
            return null;
        }

        return today.DayNumber <= last ? text![..dot] : throw new ApiProblemException(StatusCodes.Status410Gone, "link_ended", "This link has run out. Open the order from your account, or ask the shop for a new link.");
    }

    /// <summary>The token of a text of ASCII.</summary>
    public string Sign(string text) => text + "." + Base64Url.EncodeToString(HMACSHA256.HashData(_key, Encoding.ASCII.GetBytes(text)));

    /// <summary>The text of a token, or null when it was not signed here.</summary>
    public string? Read(string token)
    {
        var text = token[..Math.Max(0, token.LastIndexOf('.'))];
        return CryptographicOperations.FixedTimeEquals(Encoding.ASCII.GetBytes(Sign(text)), Encoding.ASCII.GetBytes(token)) ? text : null;
    }
}
