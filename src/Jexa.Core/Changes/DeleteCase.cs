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

/// <summary>One visit to a page that deletes a record, once the record is found.</summary>
internal sealed class DeleteCase(Visit visit, DeletePage page, FoundRecord found, QueryRunner queries, SaveSteps saving)
{
    private FoundRecord _found = found;

    private string One => page.Record!.One;

    /// <summary>Shows what would be deleted.</summary>
    public ValueTask<Answer> ShowAsync() => ShowAsync(Outcome.Found.Value, 200, null, null);

    /// <summary>Takes a form that a person sent.</summary>
    public async ValueTask<Answer> PostAsync()
    {
        var (contract, fault) = saving.Open(visit, page, _found.TextsOn(page), RecordFinder.TextsOf(page, _found.Keys));
        if (fault == ContractFault.None)
            return await MakeAsync(contract, contract!.Token);
        visit.Trace.Why = $"The form's contract cannot be taken: {fault}.";
        if (fault == ContractFault.OtherRecord)
            return Answer.Of(new Outcome.Untrusted(), Messages.Untrusted(visit.Site, page, fault.Said()));
        var said =
            fault == ContractFault.OtherVisitor
                ? "Your browser did not show the cookie that belongs to this page, so nothing was deleted. Please allow cookies "
                    + "for this site and ask again."
                : "This was asked from a page that is too old, so nothing was deleted. Please ask again.";
        return fault == ContractFault.Expired
            ? await ShowAsync(new Outcome.Invalid(), 422, said, null)
            : await ShowAsync(new Outcome.Untrusted(), 403, said, null);
    }

    /// <summary>Takes a program's request to delete.</summary>
    public async ValueTask<Answer> DeleteAsync() =>
        visit.Request.IfMatch is not { } wanted ? SaveSteps.WhichVersion(visit, page)
        : !SaveSteps.IsWanted(wanted, VersionOf(_found.Row)) ? SaveSteps.Stale(visit, page)
        : await MakeAsync(null, FormContract.NewToken());

    private async ValueTask<Answer> MakeAsync(FormContract? contract, string token)
    {
        try
        {
            await using var session = await page.Changes.Record.Source.BeginWriteAsync(visit.Cancellation);
            if (await LockAsync(session, contract, token) is { } refused)
                return refused;
            if (await saving.Maker.MakeAsync(session, Wanted(token), visit) is not { } made)
                return SaveSteps.Busy(visit, page);
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
                RefusalReason.Reference => $"This {One} cannot be deleted: other records refer to it.",
                RefusalReason.Own => $"This {One} cannot be deleted: {Own(refusal.Words)}",
                _ => $"This {One} cannot be deleted: a rule of the data forbids it.",
            };
            return await ShowAsync(new Outcome.Refused(), 409, said + " Nothing was changed.", null);
        }
        catch (SourceException trouble) when (trouble.Trouble != SourceTrouble.Failed && contract is not null)
        {
            visit.Trace.Why = trouble.Message;
            return await ShowAsync(
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

    /// <summary>
    /// Locks the record and reads it again. If it is gone, or is not as it was shown, the answer says so, and the session is
    /// closed.
    /// </summary>
    private async ValueTask<Answer?> LockAsync(IWriteSession session, FormContract? contract, string token)
    {
        var rows = visit.Rows.Lend(page.Lookup.Load.Width);
        await saving.LockAsync(session, page.Lookup.Load, _found.Keys, rows, visit.Trace, visit.Cancellation);
        var decision = Loading.Decide(page.Lookup, rows, _found.Keys);
        if (decision.Outcome is not Outcome.Found)
        {
            await session.DisposeAsync();
            visit.Trace.Why = $"It was there a moment ago: {decision.Why}";
            return
                contract is not null
                && await saving.FindAsync(token, awaitIt: true, visit.Cancellation) is { State: ChangeState.Made } done
                ? SaveSteps.Again(visit, done)
                : Answer.Of(decision.Outcome, Messages.Unknown(visit.Site, page, _found.TextsOn(page)));
        }

        _found = _found with { Row = rows[decision.Row] };
        var version = VersionOf(_found.Row);
        if (contract is null)
            return visit.Request.IfMatch is { } wanted && !SaveSteps.IsWanted(wanted, version)
                ? SaveSteps.Stale(visit, page)
                : null;
        if (contract.Version == version)
            return null;
        await session.DisposeAsync();
        visit.Trace.Why = "The record has changed since the page was shown.";
        return await ShowAsync(
            new Outcome.Conflict(),
            409,
            $"Somebody changed this {One} while you had this page open, so it was not deleted. This is how it is now.",
            null
        );
    }

    private WantedChange Wanted(string token)
    {
        var before = page.Columns.Select(column => StoredValue.Of(_found.Row, column.Ordinal)).ToArray();
        var write = new RecordWrite.Delete(page.Record!.Table.Name, ChangeMaker.KeyColumns(page.Changes, before));
        return new WantedChange(page.Changes, page.Name, ChangeKind.Deleted, write, before, token, visit.Request.Sent.Digest);
    }

    /// <summary>The source's own words as a sentence.</summary>
    private static string Own(string words) =>
        new string([.. words.Where(c => !char.IsControl(c)).Take(300)]).Trim() is var text
        && text.Length > 0
        && text[^1] is '.' or '!' or '?'
            ? text
            : text + ".";

    private async ValueTask<Answer> ShowAsync(Outcome outcome, int status, string? notice, FormContract? contract)
    {
        var row = _found.Row;
        var version = VersionOf(row);
        var dependents = await DependentsAsync(row);
        contract ??= new FormContract(
            FormContract.NewToken(),
            page.Name,
            RecordFinder.TextsOf(page, _found.Keys),
            visit.Visitor,
            saving.Now,
            new Dictionary<string, TypedValue>(),
            version,
            []
        );
        var view = new DeleteView(
            visit.Site.Frame,
            page.Name,
            outcome.PublicWord,
            status,
            page.Shape,
            row,
            RecordFinder.AddressOf(page, _found.Keys) ?? "",
            contract.Seal(saving.Seal),
            notice,
            dependents,
            !dependents.Exists(dependent => dependent.Rule == DeleteRule.Refuse),
            Cancel(row),
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

    private PlainLink? Cancel(Row row)
    {
        using var address = new Utf8Buffer(128);
        return page.Cancel?.TryWrite(row, address) == true ? new PlainLink(page.Cancel.Page, "Keep it", address.ToString())
            : page.Back is { } list ? list with { Text = "Keep it" }
            : null;
    }

    /// <summary>Visible records that refer to this one. If they cannot be counted, they are left out.</summary>
    private async ValueTask<List<Dependents>> DependentsAsync(Row row)
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
                    visit
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
                // The source itself still refuses what is not allowed.
            }
        }

        return dependents;
    }

    private string VersionOf(Row row) => RecordVersion.Of(row, page.Columns, page.Name, saving.VersionKey);
}
