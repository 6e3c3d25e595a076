using System.Security.Cryptography;
using Jexa.Core.Files;
using Microsoft.AspNetCore.Http;
using Microsoft.Net.Http.Headers;

namespace Jexa.Service.Media;

/// <summary>
/// Sends a file of the app: the whole, or the ranges that were asked for (RFC 9110, section 14). A browser may keep it, but asks
/// each time, because its record may be hidden by then.
/// </summary>
internal static class MediaAnswer
{
    /// <summary>Opened by itself, what is sent must not run anything.</summary>
    private const string Closed = "default-src 'none'; sandbox";

    /// <summary>Sends a picture; 404 if the file is not one.</summary>
    public static Task SendPictureAsync(HttpContext http, string? path) => SendAsync(http, path, file =>
        {
            if (PictureFiles.KindOf(PictureFiles.Head(file)) is not { } kind)
                return null;

            // A drawing can contain scripts and links. Opened by itself it must not run them.
            if (kind.IsDrawing)
                http.Response.Headers.ContentSecurityPolicy = "default-src 'none'; style-src 'unsafe-inline'; sandbox";
            return kind.MediaType;
        });

    /// <summary>Sends a film or a sound recording; 404 if the file is not one.</summary>
    public static Task SendRecordingAsync(HttpContext http, string? path) =>
        SendAsync(http, path, file => ContentKind.OfFile(file) is { IsPlayed: true } kind ? kind.MediaType : null);

    /// <summary>Sends any file as a download: a browser never opens it by itself.</summary>
    /// <param name="name">The name to save it under.</param>
    public static Task SendDownloadAsync(HttpContext http, string? path, string name) => SendAsync(http, path, file =>
        {
            SetDownload(http, name);
            return ContentKind.OfFile(file).MediaType;
        });

    /// <summary>Sends bytes of a record as a download.</summary>
    /// <param name="name">The file name, without an ending.</param>
    public static Task SendBytesAsync(HttpContext http, string name, byte[] content)
    {
        var kind = ContentKind.Of(content);
        SetDownload(http, name + kind.Ending);
        http.Response.Headers.CacheControl = "private, no-cache";
        var tag = $"\"{Convert.ToHexStringLower(SHA256.HashData(content))[..32]}\"";
        return Results
            .Bytes(content, kind.MediaType, enableRangeProcessing: true, entityTag: new EntityTagHeaderValue(tag))
            .ExecuteAsync(http);
    }

    public static Task SendStyleAsync(HttpContext http, string path) => SendFileAsync(http, path, "text/css; charset=utf-8");

    /// <summary>Sends a file of the app as this media type; 404 if it cannot be read.</summary>
    public static Task SendFileAsync(HttpContext http, string path, string mediaType) => SendAsync(http, path, _ => mediaType);

    private static void SetDownload(HttpContext http, string name)
    {
        var disposition = new ContentDispositionHeaderValue("attachment");
        disposition.SetHttpFileName(name);
        http.Response.Headers.ContentDisposition = disposition.ToString();
        http.Response.Headers.ContentSecurityPolicy = Closed;
    }

    /// <param name="typeOf">The media type of the opened file; null if it may not be sent.</param>
    private static async Task SendAsync(HttpContext http, string? path, Func<FileStream, string?> typeOf)
    {
        FileStream? file = null;
        try
        {
            file = path is null ? null : PlainFile.OpenRead(path);
            if (file is null || typeOf(file) is not { } mediaType)
            {
                NotFound(http);
                return;
            }

            var changed = File.GetLastWriteTimeUtc(file.SafeFileHandle);
            var tag = $"\"{changed.Ticks:x}-{file.Length:x}\"";
            http.Response.Headers.CacheControl = "private, no-cache";
            await Results
                .Stream(
                    file,
                    mediaType,
                    lastModified: changed,
                    entityTag: new EntityTagHeaderValue(tag),
                    enableRangeProcessing: true
                )
                .ExecuteAsync(http);
        }
        catch (Exception trouble) when (trouble is IOException or UnauthorizedAccessException && !http.Response.HasStarted)
        {
            NotFound(http);
        }
        catch (OperationCanceledException) when (http.RequestAborted.IsCancellationRequested)
        {
            // The visitor left, or went on to another part of the recording.
        }
        finally
        {
            if (file is not null)
                await file.DisposeAsync();
        }
    }

    private static void NotFound(HttpContext http)
    {
        http.Response.Headers.ContentDisposition = default;
        http.Response.StatusCode = StatusCodes.Status404NotFound;
        http.Response.Headers.CacheControl = "no-store";
        http.Response.ContentLength = 0;
    }
}
