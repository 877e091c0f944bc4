using System.Buffers.Text;
using System.Globalization;
using System.Security.Cryptography;
using System.Text;

namespace Sexton.Destinations.Events;

/// <summary>
/// Signs as Standard Webhooks 1.0.0 says (symmetric, HMAC-SHA256): over id, time and body, joined by full stops, once for each secret that counts, in headers that
/// every implementation of it verifies.
/// </summary>
public static class EventSignature
{
    private const string Prefix = "whsec_";

    // The standard wants 24 to 64 bytes.
    private const int ShortestSecret = 24,
        LongestSecret = 64;

    /// <summary>The bytes of a secret, written in base 64, with or without its prefix; null where it is none of 24 to 64 bytes.</summary>
    public static byte[]? KeyOf(string secret)
    {
        var text = secret.StartsWith(Prefix, StringComparison.Ordinal) ? secret[Prefix.Length..] : secret;
        return Base64.IsValid(text, out var length) && length is >= ShortestSecret and <= LongestSecret
            ? Convert.FromBase64String(text)
            : null;
    }

    /// <summary>The headers of a message.</summary>
    /// <param name="id">The id of the message, without a full stop; the same whenever it is sent.</param>
    /// <param name="at">When it is sent.</param>
    /// <param name="body">Its bytes.</param>
    /// <param name="keys">The keys that count, the newest first.</param>
    public static IEnumerable<(string Name, string Value)> HeadersOf(string id, DateTimeOffset at, byte[] body, IEnumerable<byte[]> keys)
    {
        var time = at.ToUnixTimeSeconds().ToString(CultureInfo.InvariantCulture);
        byte[] signed = [.. Encoding.UTF8.GetBytes($"{id}.{time}."), .. body];
        yield return ("webhook-id", id);
        yield return ("webhook-timestamp", time);
        yield return (
            "webhook-signature",
            string.Join(' ', keys.Select(key => "v1," + Convert.ToBase64String(HMACSHA256.HashData(key, signed))))
        );
    }
}
