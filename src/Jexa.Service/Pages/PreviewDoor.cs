using Jexa.Core.Addresses;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Visits;
using Jexa.Service.Assets;
using Jexa.Service.Html;
using Jexa.Service.Media;
using Jexa.Service.Workshop;
using Microsoft.AspNetCore.Http;

namespace Jexa.Service.Pages;

/// <summary>
/// Shows the preview of a working copy in a frame of the console. It only reads: whatever would change a record is refused. Its
/// visits are in no log, and in none of the figures of the service.
/// </summary>
internal sealed class PreviewDoor(Preview preview, PageAssets own, AppFiles files, int consolePort)
{
    private readonly HtmlPageWriter _writer = new(own.StyleVersion);

    /// <summary>
    /// Whether a request is for the preview. A preview opened by itself, outside of the console's frame, is as unknown as any
    /// other address.
    /// </summary>
    public bool IsAsked(HttpContext http, string raw) =>
        preview.Owns(raw) && preview.Site is not null && http.Request.Headers["Sec-Fetch-Dest"] != "document";

    public async Task AnswerAsync(HttpContext http, string raw)
    {
        var site = preview.Site!;
        var headers = http.Response.Headers;
        headers.CacheControl = "no-store";
        headers["Referrer-Policy"] = "no-referrer";
        headers.ContentSecurityPolicy = PagePolicy.Of(site, consolePort);
        var target = RequestTarget.Read(raw, preview.Mount);
        if (!HttpMethods.IsGet(http.Request.Method) && !HttpMethods.IsHead(http.Request.Method))
        {
            headers.Allow = Page.Reading;
            http.Response.StatusCode = StatusCodes.Status405MethodNotAllowed;
            await http.Response.WriteAsync("A preview changes nothing. Save, and change the record on the page itself.");
            return;
        }

        if (own.Find(target) is { } asset)
            await AssetAnswer.SendAsync(http, asset, "no-store");
        else if (AppFiles.IsAsked(target))
            await files.AnswerAsync(http, target, site, preview.Runner, preview.Clock);
        else
            await VisitAsync(http, site, target);
    }

    private async Task VisitAsync(HttpContext http, Site site, RequestTarget target)
    {
        var request = preview.Request(http.Request.Method, target.Raw, Reader.Person);
        var trace = new VisitTrace(http.Request.Method, target.Raw, preview.Clock);
        try
        {
            using var answer = await preview.Runner.RunAsync(site, request, trace, http.RequestAborted);
            using var body = new Utf8Buffer(16 * 1024);
            if (answer.View is { } view)
            {
                _writer.Write(view, trace.Page, target.Raw, body);
                AddScript(body);
            }

            await SendAsync(http, answer, body);
        }
        catch (OperationCanceledException) when (http.RequestAborted.IsCancellationRequested)
        {
            // The frame went on to another address.
        }
    }

    private async Task SendAsync(HttpContext http, Answer answer, Utf8Buffer body)
    {
        http.Response.StatusCode = answer.Status;
        if (answer.Location is { } location)
            http.Response.Headers.Location = location;
        if (body.Length == 0)
            return;
        http.Response.ContentType = _writer.ContentType(answer.Status);
        http.Response.ContentLength = body.Length;
        if (!HttpMethods.IsHead(http.Request.Method))
            await http.Response.Body.WriteAsync(body.WrittenMemory, http.RequestAborted);
    }

    /// <summary>Adds the script by which the console learns where the frame is and what is pointed at.</summary>
    private void AddScript(Utf8Buffer body) =>
        ScriptPlace.Add(body, $"<script src=\"{ScriptAddress}\" data-console=\"{consolePort}\"></script>\n");

    private string ScriptAddress { get; } = $"{preview.Mount}/{RequestTarget.ReservedSegment}/point.js";
}
