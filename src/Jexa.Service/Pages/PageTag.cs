using System.IO.Hashing;
using Microsoft.Extensions.Primitives;
using Microsoft.Net.Http.Headers;

namespace Jexa.Service.Pages;

/// <summary>
/// Entity tags of pages (RFC 9110 section 8.8.3): a digest of the content, so that the same page has the same tag from every
/// process. Weak, because the same page may be sent compressed or not.
/// </summary>
internal static class PageTag
{
    /// <param name="letter">The letter of its representation.</param>
    public static string Of(ReadOnlySpan<byte> body, char letter) =>
        string.Create(21, (Digest: XxHash3.HashToUInt64(body), letter), static (tag, of) =>
        {
            "W/\"".CopyTo(tag);
            for (var i = 0; i < 16; i++)
                tag[3 + i] = "0123456789abcdef"[(int)(of.Digest >> (60 - (i * 4))) & 15];
            tag[19] = of.letter;
            tag[20] = '"';
        });

    /// <summary>Whether the browser has the page already (If-None-Match, weak comparison).</summary>
    public static bool IsHeld(StringValues held, string tag) =>
        held.Count > 0
        && EntityTagHeaderValue.TryParseList(held, out var tags)
        && EntityTagHeaderValue.Parse(tag) is var own
        && tags.Any(one => one == EntityTagHeaderValue.Any || one.Compare(own, useStrongComparison: false));
}
