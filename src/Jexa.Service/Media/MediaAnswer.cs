using System.Security.Cryptography;
using Jexa.Core.Files;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.Net.Http.Headers;

namespace Jexa.Service.Media;

/// <summary>
/// Sends a file of the app. A browser may keep it, but asks each time, because its record may be hidden by then.
/// </summary>
internal static class MediaAnswer
{
    /// <summary>Sends a picture; 404 if the file is not one.</summary>
    public static async Task SendPictureAsync(HttpContext http, string? path)
    {
        FileStream? file = null;
        try
        {
            file = path is null ? null : PlainFile.OpenRead(path);
            if (file is null || PictureFiles.KindOf(PictureFiles.Head(file)) is not { } kind)
            {
                http.Response.StatusCode = StatusCodes.Status404NotFound;
                http.Response.Headers.CacheControl = "no-store";
                http.Response.ContentLength = 0;
                return;
            }

            // A drawing can contain scripts and links. Opened by itself it must not run them.
            if (kind.IsDrawing)
                http.Response.Headers.ContentSecurityPolicy = "default-src 'none'; style-src 'unsafe-inline'; sandbox";
            await SendAsync(http, file, kind.MediaType);
        }
        catch (Exception trouble) when (trouble is IOException or UnauthorizedAccessException && !http.Response.HasStarted)
        {
            http.Response.StatusCode = StatusCodes.Status404NotFound;
            http.Response.Headers.CacheControl = "no-store";
            http.Response.ContentLength = 0;
        }
        finally
        {
            if (file is not null)
                await file.DisposeAsync();
        }
    }

    /// <summary>Sends bytes of a record as a download: a browser never opens them by itself.</summary>
    /// <param name="name">The file name, without an ending.</param>
    public static async Task SendBytesAsync(HttpContext http, string name, byte[] content)
    {
        var kind = ContentKind.Of(content);
        var headers = http.Response.Headers;
        headers.ETag = $"\"{Convert.ToHexStringLower(SHA256.HashData(content))[..32]}\"";
        headers.CacheControl = "private, no-cache";
        headers.ContentSecurityPolicy = "default-src 'none'; sandbox";
        var disposition = new ContentDispositionHeaderValue("attachment");
        disposition.SetHttpFileName(name + kind.Ending);
        headers.ContentDisposition = disposition.ToString();
        if (
            http.Request.Headers.IfNoneMatch.Any(held =>
                held?.Contains(headers.ETag.ToString(), StringComparison.Ordinal) == true
            )
        )
        {
            http.Response.StatusCode = StatusCodes.Status304NotModified;
            return;
        }

        http.Response.ContentType = kind.MediaType;
        http.Response.ContentLength = content.Length;
        if (!HttpMethods.IsHead(http.Request.Method))
            await http.Response.Body.WriteAsync(content, http.RequestAborted);
    }

    public static Task SendStyleAsync(HttpContext http, string path) => SendFileAsync(http, path, "text/css; charset=utf-8");

    /// <summary>Sends a file of the app that is there.</summary>
    public static async Task SendFileAsync(HttpContext http, string path, string mediaType)
    {
        await using var file = PlainFile.OpenRead(path);
        await SendAsync(http, file, mediaType);
    }

    private static async Task SendAsync(HttpContext http, FileStream file, string mediaType)
    {
        var changed = File.GetLastWriteTimeUtc(file.SafeFileHandle);
        var length = file.Length;
        var headers = http.Response.Headers;
        headers.ETag = $"\"{changed.Ticks:x}-{length:x}\"";
        headers.LastModified = HeaderUtilities.FormatDate(changed);
        headers.CacheControl = "private, no-cache";
        if (
            http.Request.Headers.IfNoneMatch.Any(held =>
                held?.Contains(headers.ETag.ToString(), StringComparison.Ordinal) == true
            )
        )
        {
            http.Response.StatusCode = StatusCodes.Status304NotModified;
            return;
        }

        http.Response.ContentType = mediaType;
        http.Response.ContentLength = length;
        if (HttpMethods.IsHead(http.Request.Method))
            return;
        await http.Features.GetRequiredFeature<IHttpResponseBodyFeature>().StartAsync(http.RequestAborted);
        await file.CopyToAsync(http.Response.Body, http.RequestAborted);
    }
}
