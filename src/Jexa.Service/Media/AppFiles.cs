using Jexa.Core.Addresses;
using Jexa.Core.Formats;
using Jexa.Core.Serving;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Visits;
using Microsoft.AspNetCore.Http;

namespace Jexa.Service.Media;

/// <summary>
/// The app's own files below <c>/_jexa/</c>: pictures, recordings, files and bytes of records, such as
/// <c>pictures/RECORD/FIELD/ID</c>; the logo, the style sheet and what bodies use (<c>app/</c>). These are no visits.
/// </summary>
/// <param name="small">Pictures made smaller.</param>
internal sealed class AppFiles(SmallPictures small) : IDisposable
{
    public void Dispose() => small.Dispose();

    public static bool IsAsked(RequestTarget target) =>
        target.IsReserved && target.Segments.Length > 2 && (IsMedia(target) || target.Text(1).SequenceEqual("app"));

    private static bool IsMedia(RequestTarget target) => MediaLookup.Segments.Contains(target.Text(1).ToString());

    public async Task AnswerAsync(HttpContext http, RequestTarget target, Site site, VisitRunner runner, TimeProvider clock)
    {
        if (!HttpMethods.IsGet(http.Request.Method) && !HttpMethods.IsHead(http.Request.Method))
        {
            http.Response.StatusCode = StatusCodes.Status405MethodNotAllowed;
            http.Response.Headers.Allow = "GET, HEAD";
            return;
        }

        if (IsMedia(target))
            await MediaAsync(http, target, site, runner, clock);
        else if (BodyAssets.IsAsked(target))
            await BodyAssets.AnswerAsync(http, target, site);
        else if (target.Text(2).SequenceEqual("style.css") && site.Frame.Texts.Style is { } style && File.Exists(style))
            await MediaAnswer.SendStyleAsync(http, style);
        else
            await MediaAnswer.SendPictureAsync(http, target.Text(2).SequenceEqual("logo") ? site.Frame.Texts.Logo : null);
    }

    private async Task MediaAsync(HttpContext http, RequestTarget target, Site site, VisitRunner runner, TimeProvider clock)
    {
        try
        {
            var found = await runner.FindMediaAsync(
                site,
                target,
                new VisitTrace(http.Request.Method, target.Raw, clock),
                http.RequestAborted
            );
            if (found is { Content: { } content })
                await MediaAnswer.SendBytesAsync(http, found.Name, content);
            else if (found is { Folder: { } folder })
                await FileAsync(http, target, found, folder);
            else
                await MediaAnswer.SendPictureAsync(http, null);
        }
        catch (SourceException)
        {
            http.Response.StatusCode = StatusCodes.Status503ServiceUnavailable;
            http.Response.Headers.CacheControl = "no-store";
            http.Response.Headers.RetryAfter = "5";
        }
        catch (OperationCanceledException) when (http.RequestAborted.IsCancellationRequested)
        {
            // The visitor left.
        }
    }

    private async Task FileAsync(HttpContext http, RequestTarget target, MediaFile found, string folder)
    {
        if (found.Form == FieldForm.Picture)
        {
            var picture = PictureFiles.Find(folder, found.Name);
            await MediaAnswer.SendPictureAsync(
                http,
                picture is not null && SmallPictures.WidthIn(target) is { } width
                    ? await small.FindAsync(picture, width, http.RequestAborted)
                    : picture
            );
        }
        else if (found.Form.IsRecording())
            await MediaAnswer.SendRecordingAsync(http, FolderFiles.Find(folder, found.Name));
        else
            await MediaAnswer.SendDownloadAsync(http, FolderFiles.Find(folder, found.Name), FolderFiles.ShownName(found.Name));
    }
}
