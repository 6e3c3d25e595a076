using Jexa.Core.Guidance;
using Jexa.Core.Rewriting;
using Jexa.Service.Hosting;
using Jexa.Service.Traces;
using Jexa.Service.Workshop;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Routing;

namespace Jexa.Service.Management;

/// <summary>The working copy of the app file: changed, looked at and saved here.</summary>
internal sealed class WorkingCopyApi(SiteHost host, Workbench bench, PreviewReader reader)
{
    public void Map(RouteGroupBuilder api)
    {
        var copy = api.MapGroup("/working-copy");
        copy.MapGet("", LookAsync).WithSummary("The working copy of the app file: its text, pages, findings and steps");
        Change(copy.MapPost("/changes", ChangeAsync), "Make named changes of the working copy, all of them as one step, or none");
        Change(copy.MapPut("/text", TypeAsync), "Replace the text of the working copy, as it was typed");
        Change(copy.MapPost("/undo", UndoAsync), "Take the last step back");
        Change(copy.MapPost("/redo", RedoAsync), "Make the step again that was taken back last");
        Change(copy.MapPost("/discard", DiscardAsync), "Drop the working copy: begin again from the file");
        Change(copy.MapPost("/save", SaveAsync), "Save the working copy; the service takes it up");
        Change(copy.MapPost("/merge", MergeAsync), "Bring the working copy and a file changed meanwhile together");
        Change(copy.MapPost("/versions/{version}", BringBackAsync), "Bring an earlier version back, into the working copy")
            .ProducesProblem(StatusCodes.Status404NotFound);
        copy.MapGet("/versions/{version}", VersionAsync)
            .WithSummary("An earlier version: its text, and what bringing it back would change in the working copy")
            .ProducesProblem(StatusCodes.Status404NotFound);
        copy.MapGet("/versions", VersionsAsync).WithSummary("Earlier versions of the file, the latest first");
        copy.MapGet("/difference", DifferenceAsync)
            .WithSummary("How the working copy differs from the file, and which addresses would be lost");
        copy.MapGet("/value", ValueAsync)
            .WithSummary("What stands at a place of the working copy; the whole of it for an empty place")
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        copy.MapGet("/choices", ChoicesAsync)
            .WithSummary("The names that can stand at a place: pages, records, fields, parameters")
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        copy.MapPost("/completions", CompletionsAsync).WithSummary("What can be typed at a place of a text, finished or not");
        copy.MapPost("/hover", HoverAsync).WithSummary("What something in a text means, and where it is defined");
        copy.MapGet("/samples/{page}", SampleAsync)
            .WithSummary("Addresses of a page of the preview: those of its first records")
            .ProducesProblem(StatusCodes.Status404NotFound);
        copy.MapGet("/cases", CasesAsync)
            .WithSummary("Addresses to try the pages of the preview with: right, missing, malformed and unknown IDs");
        copy.MapPost("/traces", TraceAsync)
            .WithSummary("What a visit in the preview would come to")
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
        copy.MapPost("/links", LinksAsync)
            .WithSummary("The links that a page of the preview shows, and what following each would come to")
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);
    }

    private static RouteHandlerBuilder Change(RouteHandlerBuilder route, string summary) =>
        route
            .WithSummary(summary)
            .ProducesProblem(StatusCodes.Status409Conflict)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity);

    private async Task<Ok<WorkingCopyInfo>> LookAsync(CancellationToken stop) =>
        TypedResults.Ok(WorkingCopyReport.Of(await bench.LookAsync(stop), bench));

    private Task<Results<Ok<WorkingCopyInfo>, ProblemHttpResult>> ChangeAsync(
        [FromBody] WorkingChangesRequest request,
        CancellationToken stop
    ) =>
        TryAsync(() =>
            bench.ChangeAsync(
                [.. request.Changes.Select(change => change.Read())],
                request.Label ?? string.Join(", ", request.Changes.Select(change => change.Label)),
                stop
            )
        );

    private Task<Results<Ok<WorkingCopyInfo>, ProblemHttpResult>> TypeAsync(
        [FromBody] WorkingTextRequest request,
        CancellationToken stop
    ) => TryAsync(() => bench.TypeAsync(request.Version, request.Text, stop));

    private Task<Results<Ok<WorkingCopyInfo>, ProblemHttpResult>> UndoAsync(CancellationToken stop) =>
        TryAsync(() => bench.UndoAsync(stop));

    private Task<Results<Ok<WorkingCopyInfo>, ProblemHttpResult>> RedoAsync(CancellationToken stop) =>
        TryAsync(() => bench.RedoAsync(stop));

    private Task<Results<Ok<WorkingCopyInfo>, ProblemHttpResult>> DiscardAsync(CancellationToken stop) =>
        TryAsync(() => bench.DiscardAsync(stop));

    private Task<Results<Ok<WorkingCopyInfo>, ProblemHttpResult>> SaveAsync(
        [FromBody] WorkingSaveRequest request,
        CancellationToken stop
    ) => TryAsync(() => bench.SaveAsync(request.Version, stop));

    private Task<Results<Ok<WorkingCopyInfo>, ProblemHttpResult>> MergeAsync(
        [FromBody] WorkingMergeRequest request,
        CancellationToken stop
    ) => TryAsync(() => bench.MergeAsync(request.TakeMine, stop));

    private Task<Results<Ok<WorkingCopyInfo>, ProblemHttpResult>> BringBackAsync(string version, CancellationToken stop) =>
        TryAsync(() =>
            bench.Versions.Read(version) is { } text
                ? bench.ReplaceAsync(text, "bring an earlier version back", stop)
                : throw new RewriteException("This version is not kept any more.")
        );

    private async Task<Ok<IReadOnlyList<FileVersionInfo>>> VersionsAsync(CancellationToken stop)
    {
        var now = (await bench.LookAsync(stop)).Disk.Text is { } disk ? AppFileDisk.VersionOf(disk) : null;
        return TypedResults.Ok<IReadOnlyList<FileVersionInfo>>([
            .. bench.Versions.All().Select(one => new FileVersionInfo(one.Version, one.At, one.Version == now)),
        ]);
    }

    private async Task<Results<Ok<VersionTextInfo>, ProblemHttpResult>> VersionAsync(string version, CancellationToken stop)
    {
        var copy = (await bench.LookAsync(stop)).Copy;
        return bench.Versions.Read(version) is { } text
            ? TypedResults.Ok(new VersionTextInfo(version, text, ChangedFileInfo.Of(LineDifference.Between(copy.Text, text))))
            : TypedResults.Problem("This version is not kept any more.", statusCode: StatusCodes.Status404NotFound);
    }

    private async Task<Ok<WorkingDifferenceInfo>> DifferenceAsync(CancellationToken stop) =>
        TypedResults.Ok(WorkingCopyReport.Difference(await bench.LookAsync(stop), bench, host.Site));

    private async Task<Results<Ok<ValueInfo>, ProblemHttpResult>> ValueAsync(string place, CancellationToken stop)
    {
        try
        {
            var state = await bench.LookAsync(stop);
            // A text that cannot be read says why.
            var map = state.Map ?? new FileRewriter(state.Copy.Text).Map;
            return TypedResults.Ok(ValueInfo.Of(place, map.Find(place.Length == 0 ? [] : Places.Read(place))));
        }
        catch (RewriteException refused)
        {
            return Unprocessable(refused.Message);
        }
    }

    /// <param name="keys">Whether the keys of the mapping at the place are asked for, instead of its values.</param>
    private async Task<Results<Ok<IReadOnlyList<ChoiceInfo>>, ProblemHttpResult>> ChoicesAsync(
        string place,
        bool? keys,
        CancellationToken stop
    )
    {
        try
        {
            var state = await bench.LookAsync(stop);
            var path = Places.Read(place);
            if (state.Map is not { } map)
                return TypedResults.Ok<IReadOnlyList<ChoiceInfo>>([]);
            var guide = new Guide(map.Value, state.Compilation);
            var choices = keys == true ? guide.KeysAt(path) : guide.ValuesAt(path);
            return TypedResults.Ok<IReadOnlyList<ChoiceInfo>>([
                .. choices.Select(choice => new ChoiceInfo(choice.Text, choice.Detail)),
            ]);
        }
        catch (RewriteException refused)
        {
            return Unprocessable(refused.Message);
        }
    }

    /// <param name="page">Only of this page.</param>
    private async Task<Ok<IReadOnlyList<IdCaseInfo>>> CasesAsync(string? page, CancellationToken stop)
    {
        await bench.LookAsync(stop);
        return TypedResults.Ok(await reader.CasesAsync(page, stop));
    }

    private async Task<Ok<CompletionsInfo>> CompletionsAsync([FromBody] TextPlaceRequest request, CancellationToken stop)
    {
        var (from, found) = (await bench.LanguageAsync(request.Text, request.Offset, stop)).CompletionsAt(
            Math.Clamp(request.Offset, 0, request.Text.Length)
        );
        return TypedResults.Ok(
            new CompletionsInfo(from, [.. found.Select(one => new CompletionInfo(one.Text, one.Label, one.Detail))])
        );
    }

    private async Task<Ok<HoverInfo>> HoverAsync([FromBody] TextPlaceRequest request, CancellationToken stop)
    {
        var before = request.Text[..Math.Clamp(request.Offset, 0, request.Text.Length)];
        var (line, column) = (before.Count(letter => letter == '\n') + 1, before.Length - before.LastIndexOf('\n'));
        var language = await bench.LanguageAsync(request.Text, request.Offset, stop);
        return TypedResults.Ok(new HoverInfo(language.HoverAt(line, column), language.DefinitionAt(line, column)?.Line));
    }

    private async Task<Results<Ok<TraceInfo>, ProblemHttpResult>> TraceAsync(
        [FromBody] TraceRequest request,
        CancellationToken stop
    ) => await SeenAsync(stop) is { } lacking ? lacking : TypedResults.Ok(await reader.TraceAsync(request.Target, stop));

    private async Task<Results<Ok<IReadOnlyList<WorkingLinkInfo>>, ProblemHttpResult>> LinksAsync(
        [FromBody] TraceRequest request,
        CancellationToken stop
    ) => await SeenAsync(stop) is { } lacking ? lacking : TypedResults.Ok(await reader.LinksAsync(request.Target, stop));

    /// <summary>Makes sure that there is a preview. Why there is none, if the text has never made one.</summary>
    private async Task<ProblemHttpResult?> SeenAsync(CancellationToken stop)
    {
        await bench.LookAsync(stop);
        return bench.Preview.Site is null ? Unprocessable("The text cannot be read, so there are no pages to look at.") : null;
    }

    private async Task<Results<Ok<IReadOnlyList<SampleInfo>>, ProblemHttpResult>> SampleAsync(string page, CancellationToken stop)
    {
        await bench.LookAsync(stop);
        return await reader.SamplesAsync(page, stop) is { } samples
            ? TypedResults.Ok(samples)
            : TypedResults.Problem($"The preview has no page “{page}”.", statusCode: StatusCodes.Status404NotFound);
    }

    private async Task<Results<Ok<WorkingCopyInfo>, ProblemHttpResult>> TryAsync(Func<Task<WorkshopState>> change)
    {
        try
        {
            return TypedResults.Ok(WorkingCopyReport.Of(await change(), bench));
        }
        catch (StaleFileException stale)
        {
            return TypedResults.Problem(stale.Message, statusCode: StatusCodes.Status409Conflict);
        }
        catch (RewriteException refused)
        {
            return Unprocessable(refused.Message);
        }
    }

    private static ProblemHttpResult Unprocessable(string detail) =>
        TypedResults.Problem(detail, statusCode: StatusCodes.Status422UnprocessableEntity);
}
