using System.Net.Mime;
using Jexa.Core.Edits;
using Jexa.Service.Hosting;
using Jexa.Service.Proof;
using Jexa.Service.Runs;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Routing;

namespace Jexa.Service.Management;

/// <summary>Checks, sweeps, probes and audits, as the console asks for them; their progress, and their reports.</summary>
internal sealed class ProofApi(SiteHost host, IChangeLog log, ProofDesk desk)
{
    public void Map(RouteGroupBuilder api)
    {
        api.MapGet("/probe-cases", (string? page, CancellationToken stop) => ProbeQuestions.OfAsync(host, log, page, stop))
            .WithSummary("For each page the requests that it is probed by, and the answers that the app file asks for");
        api.MapGet("/proofs", All).WithSummary("The proof that is being made, and the reports of those that were");
        api.MapPost("/proofs", Begin)
            .WithSummary("Begin a check, sweep, probe or audit; one at a time")
            .ProducesProblem(StatusCodes.Status400BadRequest)
            .ProducesProblem(StatusCodes.Status409Conflict);
        api.MapPost("/proofs/stop", Stop).WithSummary("Stop the proof that is being made; its report tells what it has seen");
        api.MapGet("/proofs/{number:int}", Report)
            .WithSummary("A report, compared with the one before it of the same")
            .ProducesProblem(StatusCodes.Status404NotFound);
        api.MapGet("/proofs/{number:int}/file", FileOf)
            .WithSummary("A report as a file: json, sarif, xml (JUnit), md or html")
            .Produces<string>(StatusCodes.Status200OK, MediaTypeNames.Application.Octet)
            .ProducesProblem(StatusCodes.Status404NotFound);
    }

    private Ok<ProofsInfo> All() => TypedResults.Ok(new ProofsInfo(desk.Running, desk.Reports));

    private Results<Ok<ProofsInfo>, ProblemHttpResult> Begin([FromBody] ProofOrder order) =>
        desk.Begin(order) is var (why, isBusy)
            ? TypedResults.Problem(why, statusCode: isBusy ? StatusCodes.Status409Conflict : StatusCodes.Status400BadRequest)
            : All();

    private Ok<ProofsInfo> Stop()
    {
        desk.Stop();
        return All();
    }

    private Results<Ok<ProofReport>, ProblemHttpResult> Report(int number) =>
        desk.Read(number) is { } report ? TypedResults.Ok(report) : NotKept(number);

    private Results<FileContentHttpResult, ProblemHttpResult> FileOf(int number, string form)
    {
        var name = $"proof-{number}.{form}";
        if (!ReportForms.Knows(name))
            return TypedResults.Problem(
                $"There is no form “{form}”. There is {ReportForms.Endings.Replace(".", "", StringComparison.Ordinal)}.",
                statusCode: StatusCodes.Status404NotFound
            );
        return desk.Read(number) is { } report
            ? TypedResults.File(ReportForms.Write(name, report), MediaTypeNames.Application.Octet, name)
            : NotKept(number);
    }

    private static ProblemHttpResult NotKept(int number) =>
        TypedResults.Problem(
            $"The report {number} is not kept: there was none, or 50 came after it.",
            statusCode: StatusCodes.Status404NotFound
        );
}
