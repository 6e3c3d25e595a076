using System.IO.Hashing;
using Microsoft.Extensions.Primitives;

namespace Jexa.Service.Pages;

/// <summary>
/// Entity tags of pages (RFC 9110 section 8.8.3): a digest of what is shown, so that the same page has the same tag from every
/// process. Weak, since the same page may be sent compressed or not.
/// </summary>
internal static class PageTag
{
    /// <param name="letter">That of the form it is written in.</param>
    public static string Of(ReadOnlySpan<byte> body, char letter) =>
        string.Create(21, (Digest: XxHash3.HashToUInt64(body), letter), static (tag, of) =>
        {
            "W/\"".CopyTo(tag);
            for (var i = 0; i < 16; i++)
                tag[3 + i] = "0123456789abcdef"[(int)(of.Digest >> (60 - (i * 4))) & 15];
            tag[19] = of.letter;
            tag[20] = '"';
        });

    /// <summary>Whether the visitor holds the page already (If-None-Match, weak comparison).</summary>
    public static bool IsHeld(StringValues held, string tag)
    {
        if (held.Count == 0)
            return false;
        var opaque = tag.StartsWith("W/", StringComparison.Ordinal) ? tag.AsSpan(2) : tag.AsSpan();
        foreach (var line in held)
        {
            foreach (var range in line.AsSpan().Split(','))
            {
                var candidate = line.AsSpan()[range].Trim();
                if (candidate is "*")
                    return true;
                if (candidate.StartsWith("W/"))
                    candidate = candidate[2..];
                if (candidate.SequenceEqual(opaque))
                    return true;
            }
        }

        return false;
    }
}
