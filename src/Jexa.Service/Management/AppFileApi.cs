using Jexa.Core.Rewriting;
using Jexa.Service.Hosting;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Routing;

namespace Jexa.Service.Management;

/// <summary>The app file: its text, and named changes of it.</summary>
internal sealed class AppFileApi(SiteHost host, AppFileEditor editor)
{
    public void Map(RouteGroupBuilder api)
    {
        api.MapGet("/app-file", Text).WithSummary("The text of the app file as it is now");
        api.MapGet("/app-file/value", Value)
            .WithSummary("What stands at a place of the app file")
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        api.MapPost("/app-file/changes", ChangeAsync)
            .WithSummary("Make named changes of the app file, on trial or saved; all of them or none")
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private AppFileInfo Text() =>
        new(host.Site.File, host.File.Text, host.File.Text is { } text ? AppFileDisk.VersionOf(text) : null);

    private Results<Ok<ValueInfo>, ProblemHttpResult> Value(string place)
    {
        try
        {
            var value = new FileRewriter(host.File.Text ?? "").Find(Places.Read(place));
            return TypedResults.Ok(ValueInfo.Of(place, value));
        }
        catch (RewriteException refused)
        {
            return TypedResults.Problem(refused.Message, statusCode: StatusCodes.Status422UnprocessableEntity);
        }
    }

    private async Task<Results<Ok<ChangedFileInfo>, ProblemHttpResult>> ChangeAsync(
        [FromBody] ChangeFileRequest request,
        CancellationToken cancellation
    )
    {
        try
        {
            var changes = request.Changes.Select(change => change.Read()).ToList();
            var edited = await editor.ChangeAsync(request.Version, changes, request.Save, cancellation);
            return TypedResults.Ok(ChangedFileInfo.Of(host.Site.File, edited));
        }
        catch (StaleFileException stale)
        {
            return TypedResults.Problem(stale.Message, statusCode: StatusCodes.Status409Conflict);
        }
        catch (Exception refused) when (refused is RewriteException or StartException)
        {
            return TypedResults.Problem(refused.Message, statusCode: StatusCodes.Status422UnprocessableEntity);
        }
    }
}
