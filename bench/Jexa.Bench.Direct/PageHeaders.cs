using System.IO.Hashing;
using Microsoft.AspNetCore.Http;

namespace Jexa.Bench.Direct;

/// <summary>What Jexa says in the headers of a record's page, said by hand.</summary>
internal static class PageHeaders
{
    private const string Policy =
        "default-src 'none'; style-src 'self'; img-src 'self'; script-src 'self'; connect-src 'self'; "
        + "base-uri 'none'; form-action 'self'; "
        + "frame-ancestors http://127.0.0.1:7451 http://localhost:7451";

    /// <summary>Sets them; true if the browser holds the page already, and is told so.</summary>
    public static bool Set(HttpContext http, ReadOnlySpan<byte> page, long id)
    {
        var headers = http.Response.Headers;
        headers.ContentSecurityPolicy = Policy;
        headers.XContentTypeOptions = "nosniff";
        headers["Cross-Origin-Resource-Policy"] = "same-origin";
        headers["Referrer-Policy"] = "same-origin";
        headers.Vary = "Accept, Accept-Encoding, Origin";
        headers.CacheControl = "private, no-cache";
        headers.Link = $"</bridges/{id}>; rel=\"canonical\", </bridges>; rel=\"collection\"";
        var tag = $"W/\"{XxHash3.HashToUInt64(page):x16}\"";
        headers.ETag = tag;
        if (http.Request.Headers.IfNoneMatch != tag)
            return false;
        http.Response.StatusCode = StatusCodes.Status304NotModified;
        return true;
    }
}
