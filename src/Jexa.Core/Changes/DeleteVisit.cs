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
    public async ValueTask<Answer> RunAsync(ChangeContext context, DeletePage page, PageHead asked)
    {
        var request = context.Request;
        var found = await finder.FindAsync(
            context.Site,
            page,
            asked,
            request,
            context.Loans,
            context.Trace,
            context.Cancellation
        );
        if (found.Refused is { } refused)
        {
            // The form that deleted it leads, sent again, to where the first one led.
            return
                request.Method == "POST"
                && refused.Outcome is Outcome.Gone or Outcome.Unknown
                && await SentBeforeAsync(context, page, found) is { } again
                ? again
                : refused;
        }

        if (request.IsSafe)
            return await ShowAsync(context, page, found, Outcome.Found.Value, 200, null, null);
        return request.Method == "DELETE" ? await DeleteAsync(context, page, found) : await PostAsync(context, page, found);
    }

    private async ValueTask<Answer?> SentBeforeAsync(ChangeContext context, DeletePage page, FoundRecord found) =>
        FormContract.Open(saving.Seal, context.Request.Sent.One(SentForm.Contract) ?? "") is { } contract
        && contract.Page == page.Name
        && contract.Ids.SequenceEqual(found.TextsOn(page))
        && contract.Visitor == context.Request.Visitor
        && await saving.FindAsync(contract.Token, awaitIt: true, context.Cancellation) is { State: ChangeState.Made } made
            ? SaveSteps.Again(context, made)
            : null;

    private async ValueTask<Answer> PostAsync(ChangeContext context, DeletePage page, FoundRecord found)
    {
        string[] ids = RecordFinder.TextsOf(page, found.Keys);
        var (contract, fault) = saving.Open(context, page, found.TextsOn(page), ids);
        if (fault != ContractFault.None)
        {
            context.Trace.Why = $"The form's contract cannot be taken: {fault}.";
            return fault == ContractFault.OtherRecord
                ? Answer.Of(new Outcome.Untrusted(), Messages.Untrusted(context.Site, page, fault.Said()))
                : await ShowAsync(
                    context,
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

        return await MakeAsync(context, page, found, contract, contract!.Token);
    }

    private async ValueTask<Answer> DeleteAsync(ChangeContext context, DeletePage page, FoundRecord found)
    {
        if (context.Request.IfMatch is { } wanted)
            return wanted != "*" && !EditVisit.Holds(wanted, VersionOf(page, found.Row))
                ? SaveSteps.Stale(context, page)
                : await MakeAsync(context, page, found, null, FormContract.NewToken());
        return SaveSteps.WhichVersion(context, page);
    }

    private async ValueTask<Answer> MakeAsync(
        ChangeContext context,
        DeletePage page,
        FoundRecord found,
        FormContract? contract,
        string token
    )
    {
        try
        {
            await using var session = await page.Changes.Record.Source.BeginWriteAsync(context.Cancellation);
            var rows = context.Loans.Lend(page.Lookup.Load.Width);
            await saving.LockAsync(session, context, page.Lookup.Load, found.Keys, rows);
            var decision = Loading.Decide(page.Lookup, rows, found.Keys);
            if (decision.Outcome is not Outcome.Found)
            {
                await session.DisposeAsync();
                context.Trace.Why = $"It was there a moment ago: {decision.Why}";
                if (
                    contract is not null
                    && await saving.FindAsync(token, awaitIt: true, context.Cancellation) is { State: ChangeState.Made } done
                )
                    return SaveSteps.Again(context, done);
                return Answer.Of(decision.Outcome, Messages.Unknown(context.Site, page, found.TextsOn(page)));
            }

            var now = found with { Row = rows[decision.Row] };
            var version = VersionOf(page, now.Row);
            if (contract is null && context.Request.IfMatch is { } wanted && wanted != "*" && !EditVisit.Holds(wanted, version))
                return SaveSteps.Stale(context, page);
            if (contract is not null && contract.Version != version)
            {
                await session.DisposeAsync();
                context.Trace.Why = "The record has changed since the page was shown.";
                return await ShowAsync(
                    context,
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
                    context.Request.Sent.Digest
                ),
                context.Trace,
                context.Loans,
                context.Cancellation
            );
            if (made is null)
                return EditVisit.Busy(context, page);
            context.Trace.Why = "The record was deleted.";
            return contract is null
                ? new Answer(new Outcome.Saved(), 204, null)
                : SaveSteps.Led(new Outcome.Saved(), made.Location, $"Deleted: {made.Label}.");
        }
        catch (RefusedException refusal)
        {
            context.Trace.Why = refusal.Message;
            var said = refusal.Reason switch
            {
                RefusalReason.Reference => $"This {page.Record!.One} cannot be deleted: other records refer to it.",
                RefusalReason.Own => $"This {page.Record!.One} cannot be deleted: {Own(refusal.Words)}",
                _ => $"This {page.Record!.One} cannot be deleted: a rule of the data forbids it.",
            };
            return await ShowAsync(context, page, found, new Outcome.Refused(), 409, said + " Nothing was changed.", null);
        }
        catch (SourceException trouble) when (trouble.Trouble != SourceTrouble.Failed && contract is not null)
        {
            context.Trace.Why = trouble.Message;
            return await ShowAsync(
                context,
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
        ChangeContext context,
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
        var dependents = await DependentsAsync(context, page, row);
        contract ??= new FormContract(
            FormContract.NewToken(),
            page.Name,
            ids,
            context.Visitor,
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
            context.Site.Frame,
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
        return context.Form(outcome, status, view) with { Version = status == 200 ? version : null };
    }

    /// <summary>What refers to the record, as far as it may be seen; what cannot be counted is left out.</summary>
    private async ValueTask<List<Dependents>> DependentsAsync(ChangeContext context, DeletePage page, Row row)
    {
        var dependents = new List<Dependents>();
        foreach (var plan in page.Dependents)
        {
            try
            {
                var rows = context.Loans.Lend(1);
                await queries.RunAsync(
                    plan.Count,
                    [.. plan.Ordinals.Select(ordinal => StoredValue.Of(row, ordinal))],
                    rows,
                    context.Trace,
                    context.Cancellation
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
