using System.Buffers;
using System.Text;
using System.Text.Unicode;
using Jexa.Core.Values;

namespace Jexa.Core.Addresses;

/// <summary>Percent-encoding as RFC 3986 section 2 defines it and RFC 6570 section 3.2.2 uses it.</summary>
public static class PercentCoding
{
    private static readonly SearchValues<byte> Unreserved = SearchValues.Create(
        "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-._~"u8
    );

    /// <summary>
    /// Decodes a part of a request target strictly: two hexadecimal digits follow every <c>%</c>, the bytes are UTF-8 (no
    /// overlong forms, no surrogates), and none is NUL. Null if that is not so.
    /// </summary>
    /// <param name="part">ASCII, as it is in the target.</param>
    /// <param name="plusIsSpace">True in a query string (HTML form encoding), false in a path.</param>
    public static string? Decode(ReadOnlySpan<char> part, bool plusIsSpace)
    {
        byte[]? rented = null;
        var bytes = part.Length <= 512 ? stackalloc byte[512] : (rented = ArrayPool<byte>.Shared.Rent(part.Length));
        try
        {
            var length = 0;
            for (var i = 0; i < part.Length; i++)
            {
                var c = part[i];
                if (c == '%')
                {
                    if (i + 2 >= part.Length || !char.IsAsciiHexDigit(part[i + 1]) || !char.IsAsciiHexDigit(part[i + 2]))
                        return null;
                    var value = (byte)((Hex(part[i + 1]) << 4) | Hex(part[i + 2]));
                    if (value == 0)
                        return null;
                    bytes[length++] = value;
                    i += 2;
                }
                else
                {
                    if (c is '\0' or > '\x7f')
                        return null;
                    bytes[length++] = c == '+' && plusIsSpace ? (byte)' ' : (byte)c;
                }
            }

            return Utf8.IsValid(bytes[..length]) ? Encoding.UTF8.GetString(bytes[..length]) : null;
        }
        finally
        {
            if (rented is not null)
                ArrayPool<byte>.Shared.Return(rented);
        }
    }

    /// <summary>Whether encoding would change nothing.</summary>
    public static bool IsPlain(ReadOnlySpan<byte> utf8) => !utf8.ContainsAnyExcept(Unreserved);

    /// <summary>Appends UTF-8 text with everything but RFC 3986's unreserved characters percent-encoded.</summary>
    public static void Encode(ReadOnlySpan<byte> utf8, Utf8Buffer into)
    {
        var plain = utf8.IndexOfAnyExcept(Unreserved);
        if (plain < 0)
        {
            into.Append(utf8);
            return;
        }

        into.Append(utf8[..plain]);
        foreach (var value in utf8[plain..])
        {
            if (Unreserved.Contains(value))
            {
                into.Append(value);
                continue;
            }

            var room = into.Room(3);
            room[0] = (byte)'%';
            room[1] = "0123456789ABCDEF"u8[value >> 4];
            room[2] = "0123456789ABCDEF"u8[value & 15];
            into.Advance(3);
        }
    }

    private static int Hex(char c) => c <= '9' ? c - '0' : (c | 0x20) - 'a' + 10;
}
