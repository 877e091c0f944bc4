using System.Net;
using System.Net.Sockets;

namespace Sexton.Server.Connections;

/// <summary>
/// Tells the addresses that are inside this machine or its network from those of the world: what a manager types as the address of another system must not
/// reach what only stands open in here. The ranges are those that the registries of special-purpose addresses call not globally reachable
/// (RFC 6890, and RFC 4291 for multicast), an address of IPv4 within one of IPv6 among them (RFC 6052, RFC 3056).
/// </summary>
internal static class InsideAddresses
{
    private static readonly IPNetwork[] Ranges =
    [
        .. new[]
        {
            "0.0.0.0/8",
            "10.0.0.0/8",
            "100.64.0.0/10",
            "127.0.0.0/8",
            "169.254.0.0/16",
            "172.16.0.0/12",
            "192.0.0.0/24",
            "192.0.2.0/24",
            "192.168.0.0/16",
            "198.18.0.0/15",
            "198.51.100.0/24",
            "203.0.113.0/24",
            "224.0.0.0/4",
            "240.0.0.0/4",
            "::/128",
            "::1/128",
            "100::/64",
            "2001:db8::/32",
            "fc00::/7",
            "fe80::/10",
            "ff00::/8",
        }.Select(static text => IPNetwork.Parse(text)),
    ];

    private static readonly IPNetwork Translated = IPNetwork.Parse("64:ff9b::/96");
    private static readonly IPNetwork SixToFour = IPNetwork.Parse("2002::/16");

    /// <summary>Whether an address is inside.</summary>
    public static bool Has(IPAddress address)
    {
        var plain = Plain(address);
        return Ranges.Any(range => range.Contains(plain));
    }

    private static IPAddress Plain(IPAddress address)
    {
        if (address.AddressFamily != AddressFamily.InterNetworkV6)
        {
            return address;
        }

        var bytes = address.GetAddressBytes();
        return address.IsIPv4MappedToIPv6 ? address.MapToIPv4()
            : Translated.Contains(address) ? new IPAddress(bytes.AsSpan(12))
            : SixToFour.Contains(address) ? new IPAddress(bytes.AsSpan(2, 4))
            : address;
    }
}
