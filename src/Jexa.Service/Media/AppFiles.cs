using Jexa.Core.Addresses;
using Jexa.Core.Serving;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Visits;
using Microsoft.AspNetCore.Http;

namespace Jexa.Service.Media;

/// <summary>
/// The app's own files below <c>/_jexa/</c>: pictures and bytes of records (<c>pictures/RECORD/FIELD/ID</c>,
/// <c>bytes/RECORD/FIELD/ID</c>), the logo, the style sheet and what bodies use (<c>app/</c>). These are no visits.
/// </summary>
internal static class AppFiles
{
    public static bool IsAsked(RequestTarget target) =>
        target.IsReserved && target.Segments.Length > 2 && (IsMedia(target) || target.Text(1).SequenceEqual("app"));

    private static bool IsMedia(RequestTarget target) =>
        target.Text(1).SequenceEqual(MediaLookup.PictureSegment) || target.Text(1).SequenceEqual(MediaLookup.BytesSegment);

    public static async Task AnswerAsync(
        HttpContext http,
        RequestTarget target,
        Site site,
        VisitRunner runner,
        TimeProvider clock
    )
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

    private static async Task MediaAsync(
        HttpContext http,
        RequestTarget target,
        Site site,
        VisitRunner runner,
        TimeProvider clock
    )
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
            else
                await MediaAnswer.SendPictureAsync(
                    http,
                    found is { Folder: { } folder } ? PictureFiles.Find(folder, found.Name) : null
                );
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
}
