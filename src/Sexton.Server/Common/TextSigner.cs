using System.Buffers.Text;
using System.Globalization;
using System.Security.Cryptography;
using System.Text;

namespace Sexton.Server.Common;

/// <summary>
/// Signs short texts for links: the text, a dot, and an HMAC-SHA-256 over it, under a key derived from the installation's key for one purpose
/// (HKDF, RFC 5869). Nobody else can make one, and one made for another purpose does not count.
/// </summary>
/// <param name="options">Holds the installation's key.</param>
/// <param name="clock">Tells when a token has run out.</param>
/// <param name="purpose">What the key is derived for.</param>
internal sealed class TextSigner(SextonOptions options, TimeProvider clock, string purpose)
{
    private readonly byte[] _key = Derived(options.KeyBytes()!, purpose);
    private readonly byte[]? _keyBefore = options.KeyBeforeBytes() is { } before ? Derived(before, purpose) : null;

    private int Today => DateOnly.FromDateTime(clock.GetUtcNow().UtcDateTime).DayNumber;

    /// <summary>The token of a text of ASCII that counts for so many days, to the end of the last in UTC.</summary>
    public string SignFor(int days, string text) => Sign(_key, $"{text}.{(Today + days).ToString(CultureInfo.InvariantCulture)}");

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

        return Today <= last ? text![..dot] : throw ApiProblemException.Said(StatusCodes.Status410Gone, "link_ended", "link_ended");
    }

    private static byte[] Derived(byte[] key, string purpose) =>
        HKDF.DeriveKey(HashAlgorithmName.SHA256, key, 32, info: Encoding.ASCII.GetBytes(purpose));

    private static string Sign(byte[] key, string text) =>
        text + "." + Base64Url.EncodeToString(HMACSHA256.HashData(key, Encoding.ASCII.GetBytes(text)));

    // While the key is turned over, what was signed by the one before counts too.
    private string? Verified(string token)
    {
        var text = token[..Math.Max(0, token.LastIndexOf('.'))];
        return IsSigned(_key, text, token) || (_keyBefore is not null && IsSigned(_keyBefore, text, token)) ? text : null;
    }

    private static bool IsSigned(byte[] key, string text, string token) =>
        CryptographicOperations.FixedTimeEquals(Encoding.ASCII.GetBytes(Sign(key, text)), Encoding.ASCII.GetBytes(token));
}
