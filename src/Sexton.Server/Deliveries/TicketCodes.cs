using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Sexton.Destinations;
using Sexton.Server.Common;

namespace Sexton.Server.Deliveries;

/// <summary>Codes that name a unit of an order: "40690-2-1-7KQ2M81D", of its order, line and place, and of signs that nobody can make up.</summary>
internal sealed class TicketCodes(SextonOptions options)
{
    // Crockford's base 32: no letter is taken for a digit.
    private const string Signs = "0123456789ABCDEFGHJKMNPQRSTVWXYZ";
    private const int Length = 8;

    private readonly byte[] _key = HKDF.DeriveKey(
        HashAlgorithmName.SHA256,
        options.KeyBytes()!,
        32,
        info: "sexton ticket code 1"u8.ToArray()
    );

    /// <summary>The code of what goes of an order.</summary>
    public string Of(SentOrder order)
    {
        var line = order.Lines[0];
        var hash = HMACSHA256.HashData(_key, Encoding.ASCII.GetBytes($"{order.Id:N}{order.Part}"));
        return string.Create(
            CultureInfo.InvariantCulture,
            $"{order.Number}-{order.LineNumbers[line.Id]}-{line.Units.IndexOf(order.Part.UnitId) + 1}-{string.Concat(hash.Take(Length).Select(static b => Signs[b % 32]))}"
        );
    }
}
