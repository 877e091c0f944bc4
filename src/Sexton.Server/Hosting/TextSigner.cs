using System.Buffers.Text;
using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Sexton.Core.Trail;

namespace Sexton.Server.Hosting;

/// <summary>
/// Signs short texts for links: the text, a dot, and an HMAC-SHA-256 over it, under a key derived from the installation's key for one purpose
/// (HKDF, RFC 5869). Nobody else can make one, and one made for another purpose does not count.
/// </summary>
/// <param name="options">Holds the installation's key.</param>
/// <param name="clock">Tells when a token has run out.</param>
/// <param name="purpose">What the key is derived for.</param>
internal sealed class TextSigner(SextonOptions options, TimeProvider clock, string purpose)
{
    private readonly byte[] _key = HKDF.DeriveKey(
        HashAlgorithmName.SHA256,
        options.KeyBytes()!,
        32,
        info: Encoding.ASCII.GetBytes(purpose)
    );

    private int Today => DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime).DayNumber;

    /// <summary>The token of a text of ASCII that counts for so many days, to the end of the last in UTC.</summary>
    public string SignFor(int days, string text) => Sign($"{text}.{(Today + days).ToString(CultureInfo.InvariantCulture)}");

    /// <summary>The text of a token; null when it was not signed here.</summary>
    /// <exception cref="ApiProblemException">It was, and has run out.</exception>
    public string? Read(string token)
    {
        var text = Verified(token);
        var dot = text?.LastIndexOf('.') ?? -1;
        if (dot < 0 || !int.TryParse(text.AsSpan(dot + 1), NumberStyles.None, CultureInfo.InvariantCulture, out var last))
        {
            return null;
        }

        return Today <= last
            ? text![..dot]
            : throw new ApiProblemException(
                StatusCodes.Status410Gone,
                "link_ended",
                "This link has run out. Open the order from your account, or ask the shop for a new link."
            );
    }

    private string Sign(string text) => text + "." + Base64Url.EncodeToString(HMACSHA256.HashData(_key, Encoding.ASCII.GetBytes(text)));

    private string? Verified(string token)
    {
        var text = token[..Math.Max(0, token.LastIndexOf('.'))];
        return CryptographicOperations.FixedTimeEquals(Encoding.ASCII.GetBytes(Sign(text)), Encoding.ASCII.GetBytes(token)) ? text : null;
    }
}
