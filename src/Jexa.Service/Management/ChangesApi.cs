using Jexa.Core.Changes;
using Jexa.Core.Definitions;
using Jexa.Core.Edits;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Visits;
using Jexa.Service.Hosting;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Routing;

namespace Jexa.Service.Management;

/// <summary>The operations on the change log.</summary>
internal sealed class ChangesApi(SiteHost host, IChangeLog log, Undo undo)
{
    private const int Most = 1000;
    private const int Usual = 50;

    public void Map(RouteGroupBuilder api)
    {
        api.MapGet("/changes", List)
            .WithSummary("Changes of records, newest first")
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status503ServiceUnavailable);
        api.MapGet("/changes/{number:long}", One)
            .WithSummary("One change")
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status503ServiceUnavailable);
        api.MapPost("/changes/{number:long}/undo", UndoAsync)
            .WithSummary("Take a change back, if its record is still as that change left it; gives the change that did so")
            .ProducesProblem(StatusCodes.Status404NotFound)
            .ProducesProblem(StatusCodes.Status422UnprocessableEntity)
            .ProducesProblem(StatusCodes.Status503ServiceUnavailable);
    }

    private Results<Ok<ChangeList>, ProblemHttpResult> List([AsParameters] ChangeFilter filter)
    {
        var (record, id, page, kind, state, since, before, limit) = filter;
        if (kind is not null && !Enum.GetNames<ChangeKind>().Contains(kind, StringComparer.OrdinalIgnoreCase))
            return Unknown("kind of change", kind, Enum.GetNames<ChangeKind>());
        if (state is not null && !Enum.GetNames<ChangeState>().Contains(state, StringComparer.OrdinalIgnoreCase))
            return Unknown("state of a change", state, Enum.GetNames<ChangeState>());
        var asked = Math.Clamp(limit ?? Usual, 1, Most);
        return Guarded<Results<Ok<ChangeList>, ProblemHttpResult>>(
            () =>
            {
                var found = log.Read(
                    new ChangeQuestion(
                        record,
                        id,
                        page,
                        kind is null ? null : Enum.Parse<ChangeKind>(kind, true),
                        state is null ? null : Enum.Parse<ChangeState>(state, true),
                        since,
                        before,
                        asked + 1
                    )
                );
                return TypedResults.Ok(new ChangeList([.. found.Take(asked).Select(Of)], found.Count > asked));
            },
            refused => refused
        );
    }

    private Results<Ok<ChangeInfo>, ProblemHttpResult> One(long number) =>
        Guarded<Results<Ok<ChangeInfo>, ProblemHttpResult>>(
            () => log.Find(number) is { } change ? TypedResults.Ok(Of(change)) : None(number),
            refused => refused
        );

    private async Task<Results<Ok<ChangeInfo>, ProblemHttpResult>> UndoAsync(long number, CancellationToken cancellation)
    {
        try
        {
            if (log.Find(number) is not { } change)
                return None(number);
            var result = await undo.RunAsync(host.Site, change, new VisitTrace("POST", "/", host.Clock), cancellation);
            return result.Change is { } made
                ? TypedResults.Ok(Of(made))
                : TypedResults.Problem(
                    $"Change {number} cannot be taken back. {result.Refusal}",
                    statusCode: StatusCodes.Status422UnprocessableEntity
                );
        }
        catch (SourceException trouble)
        {
            return TypedResults.Problem(trouble.Message, statusCode: StatusCodes.Status503ServiceUnavailable);
        }
    }

    private static T Guarded<T>(Func<T> ask, Func<ProblemHttpResult, T> refused)
    {
        try
        {
            return ask();
        }
        catch (SourceException trouble)
        {
            return refused(TypedResults.Problem(trouble.Message, statusCode: StatusCodes.Status503ServiceUnavailable));
        }
    }

    private static ChangeInfo Of(LoggedChange change) =>
        new(
            change.Number,
            change.At,
            Word(change.State),
            Word(change.What.Kind),
            change.What.Page,
            change.What.Record,
            change.What.Id,
            change.What.Key,
            change.By,
            change.What.Undoes,
            change.UndoneBy,
            [
                .. change.What.Fields.Select(field => new ChangedField(
                    field.Field,
                    Text(field.Before),
                    Text(field.After),
                    field.IsSecret
                )),
            ]
        );

    private static string? Text(TypedValue value) => value is TypedValue.Empty ? null : StoredValue.Shown(value);

    private static string Word<T>(T value)
        where T : struct, Enum => value.ToString().ToLowerInvariant();

    private static ProblemHttpResult None(long number) =>
        TypedResults.Problem($"There is no change {number}.", statusCode: StatusCodes.Status404NotFound);

    private static ProblemHttpResult Unknown(string what, string word, IEnumerable<string> words)
    {
        List<string> valid = [.. words.Select(one => one.ToLowerInvariant())];
        return TypedResults.Problem(
            $"There is no {what} “{word}”."
                + (Nearest.To(word, valid) is { } near ? $" Did you mean {near}?" : $" There is {string.Join(", ", valid)}."),
            statusCode: StatusCodes.Status404NotFound
        );
    }
}
