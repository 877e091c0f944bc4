using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using System.Text.RegularExpressions;
using MimeKit;
using Sexton.Server.Common;

namespace Sexton.Server.Deliveries;

/// <summary>
/// The addresses to which a message comes back that cannot be delivered (RFC 5321, section 4.4): one for each payload, signed, so that nobody else can make one. In small
/// letters and digits only, since some mail servers fold them, and within the 64 octets of a local part (section 4.5.3.1.1).
/// </summary>
internal sealed partial class ReturnAddresses(SextonOptions options)
{
    private const string Prefix = "back.",
        Letters = "abcdefghijklmnopqrstuvwxyz234567";

    private const int SignatureLength = 16;

    private readonly byte[] _key = Derived(options.KeyBytes()!);
    private readonly byte[]? _keyBefore = options.KeyBeforeBytes() is { } before ? Derived(before) : null;
    private readonly string _domain = new MailboxAddress("", options.MailFrom).Domain;

    /// <summary>The reference of a payload of a lane.</summary>
    public static string ReferenceOf(long lane, int sequence) => string.Create(CultureInfo.InvariantCulture, $"{lane}.{sequence}");

    /// <summary>The address to which what goes under a reference comes back.</summary>
    public MailboxAddress Of(string reference) => new("", $"{Prefix}{reference}.{Sign(_key, reference)}@{_domain}");

    /// <summary>The lane and the payload of an address; null where it was not signed here.</summary>
    public (long Lane, int Sequence)? Read(string address)
    {
        var parts = Form().Match(address.ToLowerInvariant());
        if (!parts.Success)
        {
            return null;
        }

        var (reference, signature) = (parts.Groups["reference"].Value, parts.Groups["signature"].Value);
        var isOurs = new[] { _key, _keyBefore }
            .OfType<byte[]>()
            .Any(key =>
                CryptographicOperations.FixedTimeEquals(Encoding.ASCII.GetBytes(Sign(key, reference)), Encoding.ASCII.GetBytes(signature))
            );
        var numbers = reference.Split('.');
        return
            isOurs
            && long.TryParse(numbers[0], CultureInfo.InvariantCulture, out var lane)
            && int.TryParse(numbers[1], CultureInfo.InvariantCulture, out var sequence)
            ? (lane, sequence)
            : null;
    }

    [GeneratedRegex(@"\Aback\.(?<reference>[0-9]{1,19}\.[0-9]{1,9})\.(?<signature>[a-z2-7]{16})@", RegexOptions.NonBacktracking)]
    private static partial Regex Form();

    private static byte[] Derived(byte[] key) =>
        HKDF.DeriveKey(HashAlgorithmName.SHA256, key, 32, info: "sexton return address 1"u8.ToArray());

    // Eighty bits, five to a letter (the alphabet of RFC 4648, section 6, in small letters).
    private static string Sign(byte[] key, string reference)
    {
        var hash = HMACSHA256.HashData(key, Encoding.ASCII.GetBytes(reference));
        return string.Concat(Enumerable.Range(0, SignatureLength).Select(i => Letters[FiveBitsAt(hash, i * 5)]));
    }

    private static int FiveBitsAt(byte[] bytes, int bit)
    {
        var two = (bytes[bit / 8] << 8) | bytes[(bit / 8) + 1];
        return (two >> (11 - (bit % 8))) & 31;
    }
}
