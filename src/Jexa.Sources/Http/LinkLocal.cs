using System.Net;
using System.Net.Sockets;

namespace Jexa.Sources.Http;

/// <summary>
/// Link-local addresses, where machines in a cloud can read their own secrets: in IPv4 (169.254.0.0/16, RFC 3927), in IPv6
/// (fe80::/10, RFC 4291, and fd00:ec2::254, used for the same purpose), and IPv4 addresses inside IPv6 addresses.
/// </summary>
internal static class LinkLocal
{
    private static readonly IPAddress MetadataAddress = IPAddress.Parse("fd00:ec2::254");

    public static bool Is(IPAddress address)
    {
        if (address.AddressFamily == AddressFamily.InterNetwork)
            return address.GetAddressBytes() is [169, 254, ..];
        return address.IsIPv6LinkLocal || address.Equals(MetadataAddress) || (Within(address) is { } inner && Is(inner));
    }

    /// <summary>The IPv4 address inside an IPv6 address; null for none.</summary>
    private static IPAddress? Within(IPAddress address)
    {
        var bytes = address.GetAddressBytes();
        var last = bytes.AsSpan(12, 4);
        return bytes switch
        {
            // ::ffff:a.b.c.d (mapped), ::ffff:0:a.b.c.d (translated, RFC 2765), ::a.b.c.d (compatible).
            [0, 0, 0, 0, 0, 0, 0, 0, ..] when bytes.AsSpan(8, 4) is [0, 0, 0xff, 0xff] or [0xff, 0xff, 0, 0] or [0, 0, 0, 0] =>
                new IPAddress(last),

            // 64:ff9b::/96 (RFC 6052) and the local prefixes of 64:ff9b:1::/48 (RFC 8215), which end in the address as well.
            [0, 0x64, 0xff, 0x9b, ..] => new IPAddress(last),

            // 2002:a.b.c.d::/48 (6to4, RFC 3056).
            [0x20, 0x02, ..] => new IPAddress(bytes.AsSpan(2, 4)),

            // 2001:0::/32 (Teredo, RFC 4380): the client's address with each bit inverted.
            [0x20, 0x01, 0, 0, ..] => new IPAddress([(byte)~last[0], (byte)~last[1], (byte)~last[2], (byte)~last[3]]),
            _ => null,
        };
    }
}
