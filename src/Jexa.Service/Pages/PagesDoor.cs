using System.Globalization;
using System.Net;
using Jexa.Core.Addresses;
using Jexa.Core.Serving;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Visits;
using Jexa.Service.Assets;
using Jexa.Service.Contracts;
using Jexa.Service.Hosting;
using Jexa.Service.Html;
using Jexa.Service.Json;
using Jexa.Service.Media;
using Jexa.Service.Telemetry;
using Jexa.Service.Traces;
using Jexa.Service.Uploads;
using Jexa.Service.Web;
using Jexa.Service.Workshop;
using Jexa.Service.Writing;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.AspNetCore.WebUtilities;
using Serilog.Events;

namespace Jexa.Service.Pages;

/// <summary>
/// The pages' door: turns each request into one visit, and its answer into bytes. There is no framework routing and no second
/// reading of the path: the raw target decides.
/// </summary>
/// <param name="token">Whoever shows it may see traces.</param>
/// <param name="consolePort">Only the console may show pages in a frame.</param>
internal sealed class PagesDoor(
    SiteHost host,
    SiteWatcher watcher,
    ServiceOptions options,
    BearerToken token,
    VisitorCookies cookies,
    VisitTelemetry telemetry,
    Preview preview,
    AppFiles files,
    UploadReader uploads,
    int consolePort,
    Serilog.ILogger logger
)
{
    private static readonly PageAssets OwnFiles = new();

    /// <summary>The representations of pages. Add a line here for a new one.</summary>
    public static PageWriters Writers { get; } = new(new HtmlPageWriter(OwnFiles.StyleVersion), new JsonPageWriter());

    private const int MostReferrer = 300;

    private readonly OwnHost _ownHost = new(options.Hosts, options.Listen.Count > 0);

    private readonly AppContract _contract = new(host);

    private readonly PreviewDoor _preview = new(preview, OwnFiles, files, consolePort);

    private readonly FreshPages? _fresh = options.Fresh ? new FreshPages(host) : null;

    /// <summary>Headers for every answer of the present site.</summary>
    private SiteHeaders? _siteHeaders;

    public WebApplication Build()
    {
        var app = Doors.Builder(options.Listen.Count > 0 ? options.Listen : [IPAddress.Loopback], options.Port, logger).Build();
        if (options.Proxies.Count > 0)
            app.UseForwardedHeaders(Trusting(options.Proxies));
        app.Run(HandleAsync);
        return app;
    }

    /// <summary>Trusts the named proxies only, and each only about the address before it.</summary>
    private static ForwardedHeadersOptions Trusting(IReadOnlyList<IPAddress> proxies)
    {
        var trusting = new ForwardedHeadersOptions
        {
            ForwardedHeaders =
                ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedHost | ForwardedHeaders.XForwardedProto,
            ForwardLimit = null,
        };
        trusting.KnownProxies.Clear();
        trusting.KnownIPNetworks.Clear();
        foreach (var proxy in proxies)
            trusting.KnownProxies.Add(proxy);
        return trusting;
    }

    private Task HandleAsync(HttpContext http)
    {
        var headers = http.Response.Headers;
        headers.ContentSecurityPolicy = SecurityPolicy(host.Site);
        headers.XContentTypeOptions = "nosniff";
        headers["Cross-Origin-Resource-Policy"] = "same-origin";
        headers["Referrer-Policy"] = "same-origin";
        if (Doors.HasTwoLengths(http))
            return RefuseAsync(http, StatusCodes.Status400BadRequest, "The request says the length of its body in two ways.");

        var raw = ((IHttpRequestFeature)http.Features[typeof(IHttpRequestFeature)]!).RawTarget;
        var target = RequestTarget.Read(raw, host.Site.Frame.Mount);
        if (!_ownHost.IsNamedBy(http))
        {
            // Monitoring asks by address. The answer is not secret.
            return HealthCheck.IsAsked(target)
                ? HealthCheck.AnswerAsync(http, target, host)
                : RefuseAsync(http, StatusCodes.Status421MisdirectedRequest, "This service does not answer to that host name.");
        }

        if (target.IsReserved && _preview.IsAsked(http, raw))
            return _preview.AnswerAsync(http, raw);
        return (OwnFiles.Find(target) ?? UsualIcon(target)) is { } asset ? SendAsync(http, asset)
            : HealthCheck.IsAsked(target) ? HealthCheck.AnswerAsync(http, target, host)
            : IsPreflight(http) ? Preflight(http)
            : _fresh is not null && FreshPages.IsAsked(target) ? _fresh.AnswerAsync(http, target)
            : AppContract.IsAsked(target) ? ContractAsync(http, target)
            : AppFiles.IsAsked(target) ? files.AnswerAsync(http, target, host.Site, host.Runner, host.Clock)
            : JsonAddress.PageOf(target, host.Site.Frame.Mount) is { } page
                ? VisitAsync(http, RequestTarget.Read(page, host.Site.Frame.Mount), isAddressed: true)
            : VisitAsync(http, target, isAddressed: false);
    }

    /// <summary>The icon at the address where browsers look for it, unless the app has a page there.</summary>
    private Asset? UsualIcon(RequestTarget target) =>
        target.Segments.Length == 1 && target.Text(0).SequenceEqual("favicon.ico") && host.Site.Paths.Match(target, 1).Count == 0
            ? OwnFiles.Icon
            : null;

    /// <summary>Whether a browser asks if a script of another origin may send a request.</summary>
    private bool IsPreflight(HttpContext http) =>
        HttpMethods.IsOptions(http.Request.Method)
        && http.Request.Headers.AccessControlRequestMethod.Count > 0
        && host.Site.Origins.Contains(http.Request.Headers.Origin.ToString());

    private Task Preflight(HttpContext http)
    {
        var headers = http.Response.Headers;
        http.Response.StatusCode = StatusCodes.Status204NoContent;
        headers.Vary = "Origin";
        headers.AccessControlAllowOrigin = http.Request.Headers.Origin.ToString();
        headers.AccessControlAllowMethods = host.Site.Writers.Contains(http.Request.Headers.Origin.ToString())
            ? "GET, HEAD, POST, PATCH, DELETE"
            : Page.Reading;
        headers.AccessControlAllowHeaders = "accept, content-type, if-match, if-none-match";
        headers.AccessControlMaxAge = "600";
        return Task.CompletedTask;
    }

    private Task ContractAsync(HttpContext http, RequestTarget target)
    {
        http.Response.Headers.Vary = "Origin";
        AllowOrigin(http, host.Site);
        return _contract.AnswerAsync(http, target);
    }

    private string SecurityPolicy(Site site)
    {
        if (_siteHeaders is { } known && known.Site == site)
            return known.SecurityPolicy;
        var policy = PagePolicy.Of(site, consolePort);
        _siteHeaders = new SiteHeaders(site, policy);
        return policy;
    }

    /// <param name="isAddressed">Whether the address itself asks for the representation for programs.</param>
    private Task VisitAsync(HttpContext http, RequestTarget target, bool isAddressed)
    {
        var method = http.Request.Method;
        var writer =
            isAddressed || SentReader.IsJson(http) || HttpMethods.IsPatch(method) || HttpMethods.IsDelete(method)
                ? Writers.ForPrograms
                : Negotiation.Of(http.Request.Headers, Writers);
        if (writer is not null)
            return VisitAsync(http, target, writer, isAddressed);
        http.Response.Headers.Vary = "Accept";
        return RefuseAsync(http, StatusCodes.Status406NotAcceptable, $"Pages are given as {Writers.Named}.");
    }

    private async Task VisitAsync(HttpContext http, RequestTarget target, IPageWriter writer, bool isAddressed)
    {
        var trace = host.Visits.Begin(http.Request.Method, target.Raw, host.Clock);
        trace.Visitor = http.Connection.RemoteIpAddress;
        trace.Framed = http.Request.Headers["Sec-Fetch-Dest"] == "iframe";
        http.Response.Headers["Jexa-Visit"] = trace.Number.ToString(CultureInfo.InvariantCulture);
        try
        {
            var request = Request(http, target, writer.Reader);
            var site = host.Site;
            var form = request.IsSafe ? null : VisitRunner.FormAt(site, target);
            if (!request.IsSafe)
                request = await WithSentAsync(http, request, form);
            using var answer = await host.Runner.RunAsync(site, request, trace, http.RequestAborted);
            if (form is not null)
                UploadKeeper.Settle(form, request.Sent, answer);
            using var body = new Utf8Buffer(16 * 1024);
            var written = Write(Adapted(http, answer, target, writer, isAddressed), trace, target, writer, body);
            if (writer.Reader == Reader.Person)
                _fresh?.AddScript(body);
            cookies.Give(http, written, trace.Page);
            trace.End(VisitStep.Answer);
            if (writer.Reader == Reader.Program)
                AllowOrigin(http, site);
            if (http.Request.Headers.Authorization.Count > 0 && token.IsShownBy(http))
                http.Response.Headers["Server-Timing"] = ServerTiming.Of(trace);
            await SendAsync(http, written, writer, body);
        }
        catch (OperationCanceledException) when (http.RequestAborted.IsCancellationRequested)
        {
            trace.Why = "The visitor left before the answer was ready.";
        }
        finally
        {
            Tell(http, trace);
        }
    }

    /// <summary>Adapts an answer to this request.</summary>
    private Answer Adapted(HttpContext http, Answer answer, RequestTarget target, IPageWriter writer, bool isAddressed)
    {
        if (HttpMethods.IsOptions(http.Request.Method) && answer.Outcome is Outcome.NotAllowed)
            return new Answer(answer.Outcome, StatusCodes.Status204NoContent, null) { Allow = $"{answer.Allow}, OPTIONS" };
        if (isAddressed && answer is { Location: { } location, Status: >= 300 })
            return answer with { Location = JsonAddress.Of(location, host.Site.Frame.Mount) };
        // A script that sends a form follows by itself, so that the page after the save is asked for once.
        if (answer is { Status: StatusCodes.Status303SeeOther } && http.Request.Headers["Jexa-Sent-By"] == "script")
            return answer with { Status = StatusCodes.Status204NoContent };
        return
            writer.Reader == Reader.Person && answer is { Status: 200, View: { } view } && cookies.Take(http, target) is { } say
            ? answer with
            {
                View = view with { Said = say },
                IsForOnce = true,
            }
            : answer;
    }

    private static VisitRequest Request(HttpContext http, RequestTarget target, Reader reader) =>
        new(http.Request.Method, target, reader, Principal.Anonymous.Value)
        {
            Visitor = VisitorCookies.VisitorOf(http),
            HasWritten = VisitorCookies.HasWritten(http),
        };

    /// <summary>A request with its body.</summary>
    private async ValueTask<VisitRequest> WithSentAsync(HttpContext http, VisitRequest request, FormPlan? form)
    {
        var match = http.Request.Headers.IfMatch;
        var isForeign = SentReader.IsForeign(http) && !IsWriter(http);
        return request with
        {
            IsForeign = isForeign,
            Sent = await SentReader.ReadAsync(http, isForeign ? null : form, uploads, request.Visitor),
            IfMatch = match.Count > 0 ? match.ToString() : null,
        };
    }

    /// <summary>Reports a visit that is over. From then on the trace belongs to the log.</summary>
    private void Tell(HttpContext http, VisitTrace trace)
    {
        telemetry.Tell(trace, http.Request);
        host.Health.Tell(trace);
        host.Figures.Tell(trace, trace.Outcome is { IsGood: false } ? Referrer(http) : "");
        if (logger.IsEnabled(LogEventLevel.Information))
            logger.Information(
                "Visit {Number} {Method} {Target} {Outcome} {Status} {Microseconds:0}",
                trace.Number,
                trace.Method,
                TraceReport.Escaped(trace.Target),
                trace.Outcome?.Word ?? "left",
                trace.Status,
                trace.TotalMicroseconds
            );
        // As soon as its table is there, the page shows records.
        if (trace.Page is DesignedPage)
            watcher.DoubtSchema();
        if (trace.Outcome is Outcome.Failed or Outcome.Unavailable or Outcome.Ambiguous)
        {
            if (trace.Outcome is Outcome.Failed)
                watcher.DoubtSchema();
            logger.Warning(
                "Visit {Number} ended {Outcome}: {Why}",
                trace.Number,
                trace.Outcome.Word,
                TraceReport.Escaped(trace.Why ?? "")
            );
        }

        host.Visits.Add(trace);
    }

    /// <summary>Where a visitor says to come from, cut: it is theirs to write.</summary>
    private static string Referrer(HttpContext http) =>
        http.Request.Headers.Referer.ToString() is { Length: <= MostReferrer } from
            ? from
            : http.Request.Headers.Referer.ToString()[..MostReferrer];

    /// <summary>
    /// Whether it is a script of an origin that may change records. It must use JSON, which browsers do not send to another
    /// origin without asking.
    /// </summary>
    private bool IsWriter(HttpContext http) =>
        (SentReader.IsJson(http) || HttpMethods.IsDelete(http.Request.Method))
        && host.Site.Writers.Contains(http.Request.Headers.Origin.ToString());

    /// <summary>Writes the whole page into memory, so that a failure becomes a clean 500.</summary>
    private static Answer Write(Answer answer, VisitTrace trace, RequestTarget target, IPageWriter writer, Utf8Buffer body)
    {
        if (answer.View is null)
            return answer;
        try
        {
            writer.Write(answer.View, trace.Page, target.Raw, body);
            return answer;
        }
        catch (Exception unforeseen)
        {
            body.Truncate(0);
            var failure = VisitRunner.Failure(trace.Site!, trace, unforeseen);
            writer.Write(failure.View!, trace.Page, "", body);
            return failure;
        }
    }

    /// <summary>
    /// Lets a script of another origin read this answer, if the app file lists that origin; only JSON, and without credentials.
    /// </summary>
    private static void AllowOrigin(HttpContext http, Site site)
    {
        var origin = http.Request.Headers.Origin.ToString();
        if (origin.Length == 0 || !site.Origins.Contains(origin))
            return;
        http.Response.Headers.AccessControlAllowOrigin = origin;
        http.Response.Headers.AccessControlExposeHeaders = "Jexa-Visit, Link, Link-Template, ETag, Location, Retry-After";
    }

    /// <summary>The origin for visitors; empty if only this machine's own names are known.</summary>
    private string Origin(HttpContext http) =>
        options.Hosts.Count > 0 && options.Hosts.Contains(http.Request.Headers.Host.ToString(), StringComparer.OrdinalIgnoreCase)
            ? $"{http.Request.Scheme}://{http.Request.Headers.Host}"
            : "";

    private ValueTask SendAsync(HttpContext http, Answer answer, IPageWriter writer, Utf8Buffer body)
    {
        var response = http.Response;
        response.StatusCode = answer.Status;
        SetHeaders(http, answer);
        var isVersion = writer.CarriesVersion && answer.Version is not null;
        if (answer.Status != StatusCodes.Status200OK || (answer.IsForOnce && !isVersion))
        {
            response.Headers.CacheControl = "no-store";
        }
        else
        {
            SetPageHeaders(http, answer, isVersion ? $"\"{answer.Version}\"" : PageTag.Of(body.Written, writer.Letter), body);
            if (
                HttpMethods.IsGet(http.Request.Method)
                && PageTag.IsHeld(http.Request.Headers.IfNoneMatch, response.Headers.ETag.ToString())
            )
            {
                response.StatusCode = StatusCodes.Status304NotModified;
                return default;
            }
        }

        if (body.Length == 0)
        {
            if (answer.Status != StatusCodes.Status204NoContent)
                response.ContentLength = 0;
            return default;
        }

        response.ContentType = writer.ContentType(answer.Status);
        // A version is a strong tag: it is sent in one coding only.
        var compressed = isVersion ? null : Compression.TryCompress(http.Request.Headers.AcceptEncoding, body);
        if (compressed is null)
            return SendAsync(http, body);
        response.Headers.ContentEncoding = Compression.Coding;
        return SendAndDisposeAsync(http, compressed);
    }

    /// <summary>Headers for an answer of any status.</summary>
    private static void SetHeaders(HttpContext http, Answer answer)
    {
        var headers = http.Response.Headers;
        headers.Vary = "Accept, Accept-Encoding, Origin";
        if (answer.Location is not null)
            headers.Location = answer.Location;
        if (answer.Allow is not null)
            headers.Allow = answer.Allow;
        if (answer.Accepts is { } types && HttpMethods.IsPatch(http.Request.Method))
            headers["Accept-Patch"] = types;
        else if (answer.Accepts is not null)
            headers["Accept-Post"] = answer.Accepts;
        if (answer.RetryAfterSeconds is { } seconds)
            headers.RetryAfter = seconds.ToString(CultureInfo.InvariantCulture);
    }

    /// <summary>Headers for a page that a browser may keep. It asks each time; caches in between may not keep it.</summary>
    private void SetPageHeaders(HttpContext http, Answer answer, string tag, Utf8Buffer body)
    {
        var headers = http.Response.Headers;
        headers.CacheControl = "private, no-cache";
        headers.ETag = tag;
        if (LinkHeader.Of(answer.View!, body, Origin(http)) is { } link)
            headers.Link = link;
        if (LinkHeader.TemplateOf(answer.View!) is { } template)
            headers["Link-Template"] = template;
    }

    private static ValueTask SendAsync(HttpContext http, Utf8Buffer body)
    {
        http.Response.ContentLength = body.Length;
        // If the visitor has left, nothing is sent, and that is no error.
        return HttpMethods.IsHead(http.Request.Method)
            ? default
            : http.Response.Body.WriteAsync(body.WrittenMemory, CancellationToken.None);
    }

    private static async ValueTask SendAndDisposeAsync(HttpContext http, Utf8Buffer body)
    {
        using (body)
            await SendAsync(http, body);
    }

    private static Task SendAsync(HttpContext http, Asset asset)
    {
        if (HttpMethods.IsGet(http.Request.Method) || HttpMethods.IsHead(http.Request.Method))
            return AssetAnswer.SendAsync(http, asset, "public, max-age=3600");
        http.Response.Headers.Allow = "GET, HEAD";
        return RefuseAsync(http, StatusCodes.Status405MethodNotAllowed, "This file can only be read.");
    }

    /// <summary>Answers a request that is no visit.</summary>
    private static Task RefuseAsync(HttpContext http, int status, string detail)
    {
        http.Response.StatusCode = status;
        http.Response.Headers.CacheControl = "no-store";
        http.Response.Headers.Connection = "close";
        return http.Response.WriteAsJsonAsync(
            new
            {
                type = "about:blank",
                title = ReasonPhrases.GetReasonPhrase(status),
                status,
                detail,
            },
            options: null,
            contentType: "application/problem+json"
        );
    }

    private sealed record SiteHeaders(Site Site, string SecurityPolicy);
}
