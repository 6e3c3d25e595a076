using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Serving;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Traces;
using Jexa.Core.Values;
using Jexa.Core.Visits;
using Jexa.Service.Clients;
using Jexa.Service.Hosting;
using Jexa.Service.Traces;
using Jexa.Service.Web;
using Jexa.Service.Workshop;
using Jexa.Service.Writing;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Routing;

namespace Jexa.Service.Management;

/// <summary>The operations for the command line and the console. The door checks who may call them.</summary>
internal sealed class ManagementApi(SiteHost host, BearerToken token, StartCodes startCodes, Workbench bench, PageWriters writers)
{
    private const int MostVisits = 1000;
    private const int UsualVisits = 50;

    private string _pagesUrl = "";
    private string _consoleUrl = "";

    /// <summary>Sets the addresses of the doors, when their ports are known.</summary>
    public void PointTo(string pagesUrl, string consoleUrl) => (_pagesUrl, _consoleUrl) = (pagesUrl, consoleUrl);

    public void Map(RouteGroupBuilder api)
    {
        api.MapPost("/session", Trade)
            .WithSummary("Trade the one-time code of a console URL for the token")
            .ProducesProblem(StatusCodes.Status403Forbidden);
        api.MapPost("/console", () => TypedResults.Ok(new ConsoleInfo($"{_consoleUrl}#code={startCodes.Issue()}")))
            .WithSummary("A URL that opens the console signed in, once within ten minutes");
        api.MapPost("/token", Renew)
            .WithSummary(
                "Make a new token and end the old one, with every console that is signed in; gives a URL that "
                    + "opens the console anew"
            );
        api.MapGet("/site", Site).WithSummary("The app that is being served");
        api.MapGet("/pages", () => SiteReport.Of(host.Site)).WithSummary("All pages, in the order of the app file");
        api.MapGet("/sources", () =>
                SourceReport.LookAsync(host.Site.Sources, host.File.Definition, host.Site.Waiting, host.Sources)
            )
            .WithSummary("The sources of the app: whether they answer, how fast, what they hold and what can be done with it");
        api.MapGet("/samples", SamplesAsync).WithSummary("For each page an address that leads somewhere at this moment");
        api.MapGet("/findings", () => Findings(host)).WithSummary("What check found, and what visits have shown since");
        api.MapPost("/links", Link)
            .WithSummary("The address of a page for given values")
            .ProducesProblem(StatusCodes.Status400BadRequest)
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        api.MapGet("/visits", Visits)
            .WithSummary("The latest visits, newest first; only those of one outcome, if one is given")
            .ProducesProblem(StatusCodes.Status404NotFound);
        api.MapGet("/visits/{number:long}", Visit)
            .WithSummary("The trace of one visit")
            .ProducesProblem(StatusCodes.Status404NotFound);
        api.MapPost("/traces", TryAsync).WithSummary("What a visit to a target would come to; leaves no visit behind");
    }

    private SiteInfo Site() =>
        new(
            host.Site.Frame.AppTitle,
            host.Site.File,
            _pagesUrl,
            host.Site.Home?.Name,
            host.Site.Pages.Count,
            host.Site.Waiting.Count,
            host.Findings.Count,
            host.File.Behind,
            host.File.Revision,
            bench.Revision,
            host.ServesNothing && !bench.Disk.IsThere
        );

    private Ok<ConsoleInfo> Renew()
    {
        token.Renew();
        startCodes.EndAll();
        return TypedResults.Ok(new ConsoleInfo($"{_consoleUrl}#code={startCodes.Issue()}"));
    }

    private Results<Ok<SessionAnswer>, ProblemHttpResult> Trade([FromBody] SessionRequest request) =>
        startCodes.TrySpend(request.Code)
            ? TypedResults.Ok(new SessionAnswer(token.Value))
            : Refuse(
                StatusCodes.Status403Forbidden,
                "This code has been used already, is older than ten minutes, or was never given out."
            );

    /// <summary>A source that does not answer is not asked again: its pages would all wait for it.</summary>
    private async Task<IReadOnlyList<SampleInfo>> SamplesAsync(CancellationToken cancellation)
    {
        var samples = new List<SampleInfo>();
        var away = new Dictionary<ISource, string>();
        var site = host.Site;
        var calls = new ClientCalls(site);
        foreach (var page in site.Pages)
            samples.Add(await SampleAsync(page, calls, away, cancellation));
        return samples;
    }

    private async ValueTask<SampleInfo> SampleAsync(
        Page page,
        ClientCalls calls,
        Dictionary<ISource, string> away,
        CancellationToken cancellation
    )
    {
        if (page.Record is { } kind && away.TryGetValue(kind.Source, out var known))
            return new SampleInfo(page.Name, null, null, [], known, null);
        try
        {
            return await Samples.FirstAsync(page, cancellation) is { } sample
                ? new SampleInfo(page.Name, sample.Address, PageUrl(sample.Address), sample.Ids, null, Calls(page, calls, sample))
                : new SampleInfo(
                    page.Name,
                    null,
                    null,
                    [],
                    $"There is no {page.Record?.One ?? "text"} that an address can lead to.",
                    null
                );
        }
        catch (SourceException trouble)
        {
            if (trouble.Trouble != SourceTrouble.Failed && page.Record is { } record)
                away[record.Source] = trouble.Message;
            return new SampleInfo(page.Name, null, null, [], trouble.Message, null);
        }
    }

    private CallsInfo Calls(Page page, ClientCalls calls, SampleAddress sample)
    {
        var (curl, typeScript, cSharp) = calls.Of(page, PageUrl(sample.Address), sample.Ids);
        return new CallsInfo(page.Head.Builder.UriTemplate, curl, typeScript, cSharp);
    }

    private Results<Ok<LinkAnswer>, ProblemHttpResult> Link([FromBody] LinkRequest request)
    {
        if (host.Site.Find(request.Page) is not { } page)
            return Unknown($"There is no page “{request.Page}”.", request.Page, host.Site.Pages.Select(p => p.Name));
        foreach (var name in request.Values.Keys.Where(name => page.Parameters.All(p => p.Name != name)))
            return Unknown($"The page “{page.Name}” has no parameter “{name}”.", name, page.Parameters.Select(p => p.Name));
        foreach (
            var parameter in page.Parameters.Where(parameter => parameter.Required && !request.Values.ContainsKey(parameter.Name))
        )
            return Refuse(
                StatusCodes.Status400BadRequest,
                $"The page “{page.Name}” needs {parameter.Name}: {parameter.Key.Looks}."
            );

        var texts = new string?[page.Parameters.Count];
        for (var i = 0; i < texts.Length; i++)
        {
            var parameter = page.Parameters[i];
            if (!request.Values.ContainsKey(parameter.Name))
                continue;
            var reading = parameter.Key.Read(request.Values[parameter.Name]);
            if (reading.Value is null || request.Values[parameter.Name].Length == 0)
                return Refuse(
                    StatusCodes.Status422UnprocessableEntity,
                    $"“{request.Values[parameter.Name]}” is no {parameter.Name}: it must be {parameter.Key.Looks}."
                );
            texts[i] = parameter.Key.Write(reading.Value);
        }

        using var address = new Utf8Buffer(256);
        if (
            !page.Head.Builder.TryBuild(new GivenTexts(texts), address)
            || page.Head.OwnsAddress?.Invoke(address.ToString()) == false
        )
            return Refuse(StatusCodes.Status422UnprocessableEntity, "No address of this page can carry these values.");
        return TypedResults.Ok(new LinkAnswer(page.Name, address.ToString(), PageUrl(address.ToString())));
    }

    private static IReadOnlyList<string> Words { get; } = [.. OutcomeKind.All.Select(kind => kind.Word)];

    private Results<Ok<VisitList>, ProblemHttpResult> Visits(int? limit, string? outcome)
    {
        if (outcome is not null && !Words.Contains(outcome))
            return Unknown($"There is no outcome “{outcome}”.", outcome, Words);
        var kept = host.Visits.Outcomes;
        var outcomes = kept.OfType<Outcome>().CountBy(ended => ended.Word).OrderByDescending(pair => pair.Value);
        var asked = host.Visits.Read(TraceReport.Line, outcome, Math.Clamp(limit ?? UsualVisits, 1, MostVisits));
        return TypedResults.Ok(
            new VisitList(kept.Count, [.. outcomes.Select(pair => new OutcomeCount(pair.Key, pair.Value))], asked)
        );
    }

    private Results<Ok<TraceInfo>, ProblemHttpResult> Visit(HttpContext http, long number) =>
        host.Visits.Read(number, trace => Timed(http, trace)) is { } told
            ? told
            : Refuse(
                StatusCodes.Status404NotFound,
                $"The visit {number} is not kept: there was none, or more than {VisitLog.DefaultCapacity} came after it."
            );

    private async Task<Results<Ok<TraceInfo>, ProblemHttpResult>> TryAsync(
        HttpContext http,
        [FromBody] TraceRequest request,
        CancellationToken cancellation
    )
    {
        var method = request.Method ?? HttpMethods.Get;
        var trace = new VisitTrace(method, request.Target, host.Clock);
        var target = RequestTarget.Read(request.Target, host.Site.Frame.Mount);
        var visit = new VisitRequest(
            method,
            target,
            (Negotiation.Of(new HeaderDictionary { ["Accept"] = request.Accept }, writers) ?? writers.Usual).Reader,
            Principal.Anonymous.Value
        );
        using var answer = await host.Runner.RunAsync(host.Site, visit, trace, cancellation);
        trace.End(VisitStep.Answer);
        return Timed(http, trace);
    }

    private static Ok<TraceInfo> Timed(HttpContext http, VisitTrace trace)
    {
        http.Response.Headers["Server-Timing"] = ServerTiming.Of(trace);
        return TypedResults.Ok(TraceReport.Of(trace));
    }

    /// <summary>The whole URL of an address on this machine.</summary>
    private string PageUrl(string address) => new Uri(_pagesUrl).GetLeftPart(UriPartial.Authority) + address;

    private static ProblemHttpResult Unknown(string detail, string word, IEnumerable<string> valid)
    {
        var words = valid.ToList();
        var nearest = Nearest.To(word, words);
        return Refuse(
            StatusCodes.Status404NotFound,
            detail
                + (
                    nearest is not null ? $" Did you mean {nearest}?"
                    : words.Count == 0 ? " It has none."
                    : $" There is {string.Join(", ", words)}."
                )
        );
    }

    private static ProblemHttpResult Refuse(int status, string detail) => TypedResults.Problem(detail, statusCode: status);

    /// <summary>What is wrong with the app file, each at its place there.</summary>
    private static IReadOnlyList<FindingInfo> Findings(SiteHost host)
    {
        var definition = host.File.Definition;
        return SiteReport.Of(definition is null ? host.Findings : host.Findings.Select(definition.InAppFile), definition);
    }
}
