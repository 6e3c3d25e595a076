using Microsoft.AspNetCore.Http;

namespace Jexa.Service.Assets;

/// <summary>Answers a GET or HEAD with an asset: 304 if the browser has it, compressed if the browser accepts that.</summary>
internal static class AssetAnswer
{
    public static Task SendAsync(HttpContext http, Asset asset, string cacheControl)
    {
        var (request, response) = (http.Request, http.Response);
        response.ContentType = asset.MediaType;
        response.Headers.ETag = $"\"{asset.Tag}\"";
        response.Headers.CacheControl = cacheControl;
        response.Headers.Append("Vary", "Accept-Encoding");
        if (request.Headers.IfNoneMatch.ToString().Contains($"\"{asset.Tag}\"", StringComparison.Ordinal))
        {
            response.StatusCode = StatusCodes.Status304NotModified;
            return Task.CompletedTask;
        }

        var sent = asset.Bytes;
        if (Compression.IsAccepted(request.Headers.AcceptEncoding) && asset.Compressed is { } compressed)
        {
            response.Headers.ContentEncoding = Compression.Coding;
            sent = compressed;
        }

        response.ContentLength = sent.Length;
        return HttpMethods.IsHead(request.Method) ? Task.CompletedTask : response.Body.WriteAsync(sent).AsTask();
    }
}
