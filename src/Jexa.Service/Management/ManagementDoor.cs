using Jexa.Core.Addresses;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Visits;
using Jexa.Service.Pages;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.Extensions.DependencyInjection;

namespace Jexa.Service.Management;

/// <summary>
/// The second door: the management API, on an origin of its own. Everything below <c>/api/</c> wants the bearer token,
/// but for the one trade of a start code for it.
/// </summary>
internal sealed class ManagementDoor(SiteHost host, BearerToken token, StartCode startCode, Serilog.ILogger logger)
{
    private const int MostVisits = 1000;

    private readonly OwnHost _ownHost = new([]);
    private string _pagesUrl = "";

    public WebApplication Build(int port)
    {
        var builder = Doors.Builder(port, logger);
        builder.Services.AddProblemDetails();
        builder.Services.ConfigureHttpJsonOptions(json =>
        {
            json.SerializerOptions.RespectNullableAnnotations = true;
            json.SerializerOptions.RespectRequiredConstructorParameters = true;
        });
        builder.Services.AddOpenApi("v1", options => options.AddDocumentTransformer((document, _, _) =>
        {
            document.Info.Title = "Jexa management API";
            document.Info.Version = "1";
            document.Info.Description = "What the command line and the console ask a running service. Needs the token of the state folder.";
            document.Servers = [];
            return Task.CompletedTask;
        }));
        var app = builder.Build();
        app.UseExceptionHandler();
        app.UseStatusCodePages();
        app.Use(GuardAsync);
        app.UseRouting();
        Map(app);
        return app;
    }

    /// <summary>Says where the pages are, once their port is known.</summary>
    public void PointTo(string pagesUrl) => _pagesUrl = pagesUrl;

    private void Map(WebApplication app)
    {
        app.MapOpenApi("/openapi.json");
        app.MapGet("/app-file.schema.json", () => TypedResults.Stream(
            typeof(ManagementDoor).Assembly.GetManifestResourceStream("app-file.schema.json")!, "application/schema+json")).ExcludeFromDescription();
        app.MapGet("/", () => TypedResults.Text(Welcome, "text/html; charset=utf-8")).ExcludeFromDescription();
        var api = app.MapGroup("/api");
        api.MapPost("/session", Trade).WithSummary("Trade the one-time code of the start for the token");
        api.MapGet("/site", () => new SiteInfo(
                host.Site.Frame.AppTitle, host.Site.File, _pagesUrl, host.Site.Home?.Name, host.Site.Pages.Count, host.Findings.Count, host.IsBehind))
            .WithSummary("The app that is being served");
        api.MapGet("/pages", () => host.Site.Pages.Select(TraceReport.Of).ToList()).WithSummary("All pages, in the order of the app file");
        api.MapGet("/findings", () => host.Findings.Select(TraceReport.Of).ToList()).WithSummary("What check found, and what visits have shown since");
        api.MapPost("/links", Link).WithSummary("The address of a page for given values");
        api.MapGet("/visits", (int? limit) => host.Visits.Latest(Math.Clamp(limit ?? 50, 1, MostVisits)).Select(TraceReport.Line).ToList())
            .WithSummary("The latest visits, newest first");
        api.MapGet("/visits/{number:long}", Visit).WithSummary("The trace of one visit");
        api.MapPost("/traces", TryAsync).WithSummary("What a visit to a target would come to; leaves no visit behind");
    }

    private async Task GuardAsync(HttpContext http, RequestDelegate next)
    {
        var headers = http.Response.Headers;
        headers.ContentSecurityPolicy = "default-src 'none'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'";
        headers.XContentTypeOptions = "nosniff";
        headers["Cross-Origin-Resource-Policy"] = "same-origin";
        headers["Referrer-Policy"] = "no-referrer";
        headers.CacheControl = "no-store";
        if (!_ownHost.IsNamedBy(http))
            await Refuse(StatusCodes.Status421MisdirectedRequest, "This service does not answer to that host name.").ExecuteAsync(http);
        else if (Doors.HasTwoLengths(http))
            await Refuse(StatusCodes.Status400BadRequest, "The request says the length of its body in two ways.").ExecuteAsync(http);
        else if (http.Request.Path.StartsWithSegments("/api") && http.Request.Path != "/api/session" && !token.IsShownBy(http))
            await ChallengeAsync(http);
        else
            await next(http);
    }

    private static Task ChallengeAsync(HttpContext http)
    {
        http.Response.Headers.WWWAuthenticate = "Bearer";
        return Refuse(StatusCodes.Status401Unauthorized, "This needs the token that the state folder keeps.").ExecuteAsync(http);
    }

    private Results<Ok<SessionAnswer>, ProblemHttpResult> Trade([FromBody] SessionRequest request) =>
        startCode.TrySpend(request.Code) ? TypedResults.Ok(new SessionAnswer(token.Value))
            : Refuse(StatusCodes.Status403Forbidden, "This code has been used already, or was never given out.");

    private Results<Ok<LinkAnswer>, ProblemHttpResult> Link([FromBody] LinkRequest request)
    {
        if (host.Site.Find(request.Page) is not { } page)
            return Unknown($"There is no page “{request.Page}”.", request.Page, host.Site.Pages.Select(p => p.Name));
        foreach (var name in request.Values.Keys.Where(name => page.Parameters.All(p => p.Name != name)))
            return Unknown($"The page “{page.Name}” has no parameter “{name}”.", name, page.Parameters.Select(p => p.Name));
        foreach (var parameter in page.Parameters.Where(parameter => !request.Values.ContainsKey(parameter.Name)))
            return Refuse(StatusCodes.Status400BadRequest, $"The page “{page.Name}” needs {parameter.Name}: {parameter.Key.Looks}.");

        var texts = new string[page.Parameters.Count];
        for (var i = 0; i < texts.Length; i++)
        {
            var parameter = page.Parameters[i];
            var reading = parameter.Key.Read(request.Values[parameter.Name]);
            if (reading.Value is null || request.Values[parameter.Name].Length == 0)
                return Refuse(StatusCodes.Status422UnprocessableEntity, $"“{request.Values[parameter.Name]}” is no {parameter.Name}: it must be {parameter.Key.Looks}.");
            texts[i] = parameter.Key.Write(reading.Value);
        }

        using var address = new Utf8Buffer(256);
        if (!page.Head.Builder.TryBuild(new GivenTexts(texts), address) || page.Head.LeadsThere?.Invoke(address.ToString()) == false)
            return Refuse(StatusCodes.Status422UnprocessableEntity, "No address of this page can carry these values.");
        return TypedResults.Ok(new LinkAnswer(page.Name, address.ToString(), PageUrl(address.ToString())));
    }

    /// <summary>The whole URL of an address on this machine's own pages' door.</summary>
    private string PageUrl(string address) => new Uri(_pagesUrl).GetLeftPart(UriPartial.Authority) + address;

    private Results<Ok<TraceInfo>, ProblemHttpResult> Visit(long number) =>
        host.Visits.Find(number) is { } trace ? TypedResults.Ok(TraceReport.Of(trace))
            : Refuse(StatusCodes.Status404NotFound, $"The visit {number} is not kept: there was none, or more than {VisitLog.DefaultCapacity} came after it.");

    private async Task<Results<Ok<TraceInfo>, ProblemHttpResult>> TryAsync([FromBody] TraceRequest request, CancellationToken cancellation)
    {
        var method = request.Method ?? HttpMethods.Get;
        var trace = new VisitTrace(method, request.Target, host.Clock);
        var visit = new VisitRequest(method, RequestTarget.Read(request.Target, host.Site.Frame.Mount), Negotiation.PrefersJson(request.Accept), Principal.Anonymous.Value);
        using var answer = await host.Runner.RunAsync(host.Site, visit, trace, cancellation);
        trace.End(VisitStep.Answer);
        return TypedResults.Ok(TraceReport.Of(trace));
    }

    private static ProblemHttpResult Unknown(string detail, string word, IEnumerable<string> valid)
    {
        var words = valid.ToList();
        var nearest = Core.Definitions.Nearest.To(word, words);
        return Refuse(StatusCodes.Status404NotFound, detail + (nearest is not null ? $" Did you mean {nearest}?"
            : words.Count == 0 ? " It has none." : $" There is {string.Join(", ", words)}."));
    }

    private static ProblemHttpResult Refuse(int status, string detail) => TypedResults.Problem(detail, statusCode: status);

    private const string Welcome = """
        <!DOCTYPE html>
        <html lang="en"><head><meta charset="utf-8"><title>Jexa console</title></head>
        <body><h1>Jexa console</h1><p>This door serves the management API that the command line uses:
        <a href="/openapi.json">its OpenAPI document</a>. The console’s screens are still to come.</p></body></html>
        """;

    private readonly struct GivenTexts(string[] texts) : IParameterTexts
    {
        public bool TryWrite(int parameter, Utf8Buffer into)
        {
            into.Append(texts[parameter]);
            return true;
        }
    }
}
