using Jexa.Core.Edits;
using Jexa.Core.Formats;
using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Core.Changes;

/// <summary>
/// Visits a page that deletes one record: shows it and what hangs on it, and deletes it once that is asked again.
/// </summary>
internal sealed class DeleteVisit(QueryRunner queries, RecordFinder finder, SaveSteps saving)
{
    public async ValueTask<Answer> RunAsync(Visit visit, DeletePage page)
    {
        var request = visit.Request;
        var found = await finder.FindAsync(visit, page);
        if (found.Refused is { } refused)
        {
            // The form that deleted it leads, sent again, to where the first one led.
            return
                request.Method == "POST"
                && refused.Outcome is Outcome.Gone or Outcome.Unknown
                && await SentBeforeAsync(visit, page, found) is { } again
                ? again
                : refused;
        }

        if (request.IsSafe)
            return await ShowAsync(visit, page, found, Outcome.Found.Value, 200, null, null);
        return request.Method == "DELETE" ? await DeleteAsync(visit, page, found) : await PostAsync(visit, page, found);
    }

    private async ValueTask<Answer?> SentBeforeAsync(Visit visit, DeletePage page, FoundRecord found) =>
        FormContract.Open(saving.Seal, visit.Request.Sent.One(SentForm.Contract) ?? "") is { } contract
        && contract.Page == page.Name
        && contract.Ids.SequenceEqual(found.TextsOn(page))
        && contract.Visitor == visit.Request.Visitor
        && await saving.FindAsync(contract.Token, awaitIt: true, visit.Cancellation) is { State: ChangeState.Made } made
            ? SaveSteps.Again(visit, made)
            : null;

    private async ValueTask<Answer> PostAsync(Visit visit, DeletePage page, FoundRecord found)
    {
        string[] ids = RecordFinder.TextsOf(page, found.Keys);
        var (contract, fault) = saving.Open(visit, page, found.TextsOn(page), ids);
        if (fault != ContractFault.None)
        {
            visit.Trace.Why = $"The form's contract cannot be taken: {fault}.";
            return fault == ContractFault.OtherRecord
                ? Answer.Of(new Outcome.Untrusted(), Messages.Untrusted(visit.Site, page, fault.Said()))
                : await ShowAsync(
                    visit,
                    page,
                    found,
                    fault == ContractFault.Expired ? new Outcome.Invalid() : new Outcome.Untrusted(),
                    fault == ContractFault.Expired ? 422 : 403,
                    fault == ContractFault.OtherVisitor
                        ? "Your browser did not show the cookie that belongs to this page, so nothing was deleted. Please "
                            + "allow cookies for this site and ask again."
                        : "This was asked from a page that is too old, so nothing was deleted. Please ask again.",
                    null
                );
        }

        return await MakeAsync(visit, page, found, contract, contract!.Token);
    }

    private async ValueTask<Answer> DeleteAsync(Visit visit, DeletePage page, FoundRecord found)
    {
        if (visit.Request.IfMatch is { } wanted)
            return wanted != "*" && !EditVisit.Holds(wanted, VersionOf(page, found.Row))
                ? SaveSteps.Stale(visit, page)
                : await MakeAsync(visit, page, found, null, FormContract.NewToken());
        return SaveSteps.WhichVersion(visit, page);
    }

    private async ValueTask<Answer> MakeAsync(
        Visit visit,
        DeletePage page,
        FoundRecord found,
        FormContract? contract,
        string token
    )
    {
        try
        {
            await using var session = await page.Changes.Record.Source.BeginWriteAsync(visit.Cancellation);
            var rows = visit.Rows.Lend(page.Lookup.Load.Width);
            await saving.LockAsync(session, page.Lookup.Load, found.Keys, rows, visit.Trace, visit.Cancellation);
            var decision = Loading.Decide(page.Lookup, rows, found.Keys);
            if (decision.Outcome is not Outcome.Found)
            {
                await session.DisposeAsync();
                visit.Trace.Why = $"It was there a moment ago: {decision.Why}";
                if (
                    contract is not null
                    && await saving.FindAsync(token, awaitIt: true, visit.Cancellation) is { State: ChangeState.Made } done
                )
                    return SaveSteps.Again(visit, done);
                return Answer.Of(decision.Outcome, Messages.Unknown(visit.Site, page, found.TextsOn(page)));
            }

            var now = found with { Row = rows[decision.Row] };
            var version = VersionOf(page, now.Row);
            if (contract is null && visit.Request.IfMatch is { } wanted && wanted != "*" && !EditVisit.Holds(wanted, version))
                return SaveSteps.Stale(visit, page);
            if (contract is not null && contract.Version != version)
            {
                await session.DisposeAsync();
                visit.Trace.Why = "The record has changed since the page was shown.";
                return await ShowAsync(
                    visit,
                    page,
                    now,
                    new Outcome.Conflict(),
                    409,
                    $"Somebody changed this {page.Record!.One} while you had this page open, so it was not deleted. "
                        + "This is how it is now.",
                    null
                );
            }

            var before = page.Columns.Select(column => StoredValue.Of(now.Row, column.Ordinal)).ToArray();
            var key = page
                .Changes.Key.Zip(ChangeMaker.KeyOf(page.Changes, before), (column, value) =>
                    new ColumnValue(column.Field.Column.Name, value)
                )
                .ToList();
            var made = await saving.Maker.MakeAsync(
                session,
                new WantedChange(
                    page.Changes,
                    page.Name,
                    ChangeKind.Deleted,
                    new RecordWrite.Delete(page.Record!.Table.Name, key),
                    before,
                    token,
                    visit.Request.Sent.Digest
                ),
                visit.Trace,
                visit.Rows,
                visit.Cancellation
            );
            if (made is null)
                return EditVisit.Busy(visit, page);
            visit.Trace.Why = "The record was deleted.";
            return contract is null
                ? new Answer(new Outcome.Saved(), 204, null)
                : SaveSteps.Led(new Outcome.Saved(), made.Location, $"Deleted: {made.Label}.");
        }
        catch (RefusedException refusal)
        {
            visit.Trace.Why = refusal.Message;
            var said = refusal.Reason switch
            {
                RefusalReason.Reference => $"This {page.Record!.One} cannot be deleted: other records refer to it.",
                RefusalReason.Own => $"This {page.Record!.One} cannot be deleted: {Own(refusal.Words)}",
                _ => $"This {page.Record!.One} cannot be deleted: a rule of the data forbids it.",
            };
            return await ShowAsync(visit, page, found, new Outcome.Refused(), 409, said + " Nothing was changed.", null);
        }
        catch (SourceException trouble) when (trouble.Trouble != SourceTrouble.Failed && contract is not null)
        {
            visit.Trace.Why = trouble.Message;
            return await ShowAsync(
                visit,
                page,
                found,
                new Outcome.Unavailable(trouble.Trouble),
                503,
                "It could not be deleted just now. Please ask again in a moment.",
                contract
            ) with
            {
                RetryAfterSeconds = 5,
            };
        }
    }

    private static string Own(string words) =>
        new string([.. words.Where(c => !char.IsControl(c)).Take(300)]).Trim() is var text
        && text.Length > 0
        && text[^1] is '.' or '!' or '?'
            ? text
            : text + ".";

    private async ValueTask<Answer> ShowAsync(
        Visit visit,
        DeletePage page,
        FoundRecord found,
        Outcome outcome,
        int status,
        string? notice,
        FormContract? contract
    )
    {
        var row = found.Row;
        var version = VersionOf(page, row);
        string[] ids = RecordFinder.TextsOf(page, found.Keys);
        var dependents = await DependentsAsync(visit, page, row);
        contract ??= new FormContract(
            FormContract.NewToken(),
            page.Name,
            ids,
            visit.Visitor,
            saving.Now,
            new Dictionary<string, TypedValue>(),
            version,
            []
        );
        using var address = new Utf8Buffer(128);
        var cancel =
            page.Cancel?.TryWrite(row, address) == true ? new PlainLink(page.Cancel.Page, "Keep it", address.ToString())
            : page.Back is { } list ? list with { Text = "Keep it" }
            : null;
        var view = new DeleteView(
            visit.Site.Frame,
            page.Name,
            outcome.PublicWord,
            status,
            page.Shape,
            row,
            RecordFinder.AddressOf(page, found.Keys) ?? "",
            contract.Seal(saving.Seal),
            notice,
            dependents,
            !dependents.Exists(dependent => dependent.Rule == DeleteRule.Refuse),
            cancel,
            [
                .. page
                    .Columns.Where(column => !column.Field.Secret)
                    .Select(column => new ViewColumn(
                        column.Field.Name,
                        column.Field.Label ?? Labels.OfField(column.Field.Name),
                        column.Field.Type,
                        column.Shown,
                        false,
                        null,
                        null,
                        null
                    )),
            ]
        );
        return visit.Form(outcome, status, view) with { Version = status == 200 ? version : null };
    }

    /// <summary>What refers to the record, as far as it may be seen; what cannot be counted is left out.</summary>
    private async ValueTask<List<Dependents>> DependentsAsync(Visit visit, DeletePage page, Row row)
    {
        var dependents = new List<Dependents>();
        foreach (var plan in page.Dependents)
        {
            try
            {
                var rows = visit.Rows.Lend(1);
                await queries.RunAsync(
                    plan.Count,
                    [.. plan.Ordinals.Select(ordinal => StoredValue.Of(row, ordinal))],
                    rows,
                    visit.Trace,
                    visit.Cancellation
                );
                var count = rows[0][0].Integer;
                if (count > 0)
                    dependents.Add(
                        new Dependents(
                            count == 1 ? plan.One : plan.Many,
                            new Total(Math.Min(count, DependentPlan.CountLimit), count <= DependentPlan.CountLimit),
                            plan.Rule
                        )
                    );
            }
            catch (SourceException)
            {
                // The source itself still refuses what must not be.
            }
        }

        return dependents;
    }

    private string VersionOf(DeletePage page, Row row) => RecordVersion.Of(row, page.Columns, page.Name, saving.VersionKey);
}
