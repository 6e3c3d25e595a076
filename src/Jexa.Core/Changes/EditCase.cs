using Jexa.Core.Edits;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Core.Changes;

/// <summary>One visit to a page that changes a record: its form, or the change that was sent.</summary>
internal sealed class EditCase(Visit visit, EditPage page, FormMaker forms, SaveSteps saving)
{
    private readonly EditForm _form = new(visit, page, forms, saving);
    private readonly EditComparison _comparison = new(visit, page, forms);
    private FoundRecord _found;
    private Draft _draft = new(page.Form);

    /// <summary>Shows the form of the record as it is.</summary>
    public ValueTask<Answer> ShowAsync(FoundRecord found)
    {
        _found = found;
        return FormAsync(Outcome.Found.Value, 200, null, null);
    }

    /// <summary>Takes a form that a person sent.</summary>
    public async ValueTask<Answer> PostAsync(FoundRecord found)
    {
        var sent = visit.Request.Sent;
        (_found, _draft) = (found, Draft.OfForm(page.Form, sent));
        var (contract, fault) = saving.Open(visit, page, _found.TextsOn(page), RecordFinder.TextsOf(page, _found.Keys));
        if (fault != ContractFault.None)
            return await DistrustAsync(contract, fault);
        if (await SpentAsync(contract!, awaitIt: false) is { } spent)
            return spent;
        if (_draft.OnlyAsks)
            return await FormAsync(Outcome.Found.Value, 200, null, contract);
        foreach (var field in contract!.Undecided.Where(field => page.Form.Find(field) is not null))
        {
            var chosen = sent.One(SentForm.Choose + field);
            _draft.Undecided[field] = chosen is "theirs" or "mine" ? chosen : null;
            if (chosen == "theirs")
                _draft.Leave(field);
            else if (chosen != "mine")
                _draft.AddFault(field, "Please choose which of the two values is to stay.");
        }

        var proposals = _draft.Propose(_found.Row);
        return _draft.HasFaults
            ? await InvalidAsync(proposals, contract)
            : await SaveAsync(contract, contract.Token, sent.Digest);
    }

    /// <summary>Takes a change that a program sent.</summary>
    public async ValueTask<Answer> PatchAsync(FoundRecord found)
    {
        if (visit.Request.IfMatch is not { } wanted)
            return SaveSteps.WhichVersion(visit, page);
        if (!SaveSteps.IsWanted(wanted, VersionOf(found.Row)))
            return SaveSteps.Stale(visit, page);
        (_found, _draft) = (found, Draft.OfJson(page.Form, visit.Request.Sent.Json!.Value, visit.Request.Sent.Files));
        var proposals = _draft.Propose(_found.Row);
        return _draft.HasFaults || _draft.Strays.Count > 0
            ? await InvalidAsync(proposals, null)
            : await SaveAsync(null, FormContract.NewToken(), visit.Request.Sent.Digest);
    }

    /// <summary>
    /// Shows what was typed beside an answer without a form, so that it is not lost. It is used if the record is gone, or if
    /// nobody can tell which fields were meant to change.
    /// </summary>
    /// <param name="row">The record, if it exists: fields with the same value are not repeated.</param>
    public async ValueTask<Answer> TypedAsync(Answer refused, Row? row = null)
    {
        if (
            refused.View is not MessageView message
            || refused.Outcome is not (Outcome.Unknown or Outcome.Hidden or Outcome.Gone or Outcome.Untrusted)
        )
            return refused;
        var draft = Draft.OfForm(page.Form, visit.Request.Sent);
        var typed = new List<(string, string)>();
        foreach (var entry in page.Form.Entries)
            if (
                draft.TextOf(entry.Name) is { Length: > 0 } text
                && !entry.Field.Secret
                && (row is not { } held || FieldText.Of(entry.Field, held) != text)
            )
                typed.Add((entry.Field.Label, await forms.ShownAsync(visit, entry, text)));
        return refused with
        {
            View = message with
            {
                Sentences = [.. message.Sentences, "Nothing was saved. What you typed stands below, so that you can copy it."],
                Typed = typed,
            },
            IsForOnce = true,
        };
    }

    private async ValueTask<Answer> DistrustAsync(FormContract? contract, ContractFault fault)
    {
        visit.Trace.Why = $"The form's contract cannot be taken: {fault}.";
        var refused = Answer.Of(new Outcome.Untrusted(), Messages.Untrusted(visit.Site, page, fault.Said()));
        if (fault is ContractFault.OtherRecord)
            return refused;

        // Without the original values nobody can tell which fields were meant to change.
        if (contract is null)
            return await TypedAsync(refused, _found.Row);
        await _comparison.CompareAsync(_draft, contract, _found.Row);
        return fault == ContractFault.Expired
            ? await FormAsync(new Outcome.Invalid(), 422, fault.Said(), null)
            : await FormAsync(new Outcome.Untrusted(), 403, fault.Said(), null);
    }

    private async ValueTask<Answer> SaveAsync(FormContract? contract, string token, string digest)
    {
        try
        {
            await using var session = await page.Changes.Record.Source.BeginWriteAsync(visit.Cancellation);
            if (contract is not null && await saving.IsUsedAsync(session, token, visit.Cancellation))
            {
                await session.DisposeAsync();
                return await SpentAsync(contract, awaitIt: true) ?? SaveSteps.Busy(visit, page);
            }

            if (await LockAsync(session, contract) is { } refused)
                return refused;
            var proposals = _draft.Propose(_found.Row);
            if (proposals.Count == 0 && !_draft.HasFaults)
                return await NothingAsync();
            var values = await CheckAsync(proposals, saving.Within(session, visit));
            if (_draft.HasFaults)
            {
                await session.DisposeAsync();
                return await FormAsync(new Outcome.Invalid(), 422, null, contract);
            }

            var made = await saving.Maker.MakeAsync(session, Wanted(values, token, digest), visit);
            if (made is null)
            {
                await session.DisposeAsync();
                return SaveSteps.Busy(visit, page);
            }

            return await SavedAsync(made, values);
        }
        catch (RefusedException refusal)
        {
            visit.Trace.Why = refusal.Message;
            DraftChecks.Explain(
                _draft,
                refusal,
                page.Record!,
                [.. _draft.Propose(_found.Row).Select(proposal => proposal.Entry.Of)]
            );
            return await FormAsync(new Outcome.Refused(), 409, null, contract);
        }
        catch (SourceException trouble) when (trouble.Trouble != SourceTrouble.Failed && contract is not null)
        {
            return await LaterAsync(contract, trouble);
        }
    }

    /// <summary>
    /// Locks the record and reads it again. If it is gone, or has changed, the answer says so, and the session is closed.
    /// </summary>
    private async ValueTask<Answer?> LockAsync(IWriteSession session, FormContract? contract)
    {
        var rows = visit.Rows.Lend(page.Lookup.Load.Width);
        await saving.LockAsync(session, page.Lookup.Load, _found.Keys, rows, visit.Trace, visit.Cancellation);
        var decision = Loading.Decide(page.Lookup, rows, _found.Keys);
        if (decision.Outcome is not Outcome.Found)
        {
            await session.DisposeAsync();
            return await LostAsync(decision);
        }

        _found = _found with { Row = rows[decision.Row] };
        if (contract is null)
            return visit.Request.IfMatch is { } wanted && !SaveSteps.IsWanted(wanted, VersionOf(_found.Row))
                ? SaveSteps.Stale(visit, page)
                : null;
        if (!_comparison.Clashes(contract, _found.Row))
            return null;
        await session.DisposeAsync();
        return await ConflictAsync(contract);
    }

    private ValueTask<List<ColumnValue>> CheckAsync(IReadOnlyList<Proposal> proposals, QueryRun run) =>
        new DraftChecks(_draft, StoredIn(_found.Row), KeyOf(_found.Row), run, visit.Rows).RunAsync(proposals);

    private WantedChange Wanted(List<ColumnValue> values, string token, string digest)
    {
        var before = page.Columns.Select(column => StoredValue.Of(_found.Row, column.Ordinal)).ToArray();
        var write = new RecordWrite.Update(
            page.Record!.Table.Name,
            ChangeMaker.KeyColumns(page.Changes, before),
            [.. values, .. saving.Kept(page.Changes, before)]
        );
        return new WantedChange(page.Changes, page.Name, ChangeKind.Changed, write, before, token, digest);
    }

    /// <summary>
    /// The answer to a form that was used already. With the same content it leads to what it made. With other content it is shown
    /// again with the present record. Null if the source itself decides.
    /// </summary>
    private async ValueTask<Answer?> SpentAsync(FormContract contract, bool awaitIt)
    {
        if (await saving.FindAsync(contract.Token, awaitIt, visit.Cancellation) is not { } used)
            return null;
        if (used.What.Digest == visit.Request.Sent.Digest && used.State == ChangeState.Made)
            return SaveSteps.Again(visit, used);
        if (used.State == ChangeState.Intended)
            return null;
        await _comparison.CompareAsync(_draft, contract, _found.Row);
        if (used.State == ChangeState.Undetermined)
            return await FormAsync(new Outcome.Spent(), 409, SaveSteps.Undetermined, null);
        return await FormAsync(
            new Outcome.Spent(),
            409,
            "This form was saved before, with other content. Below is what you typed now, against the "
                + "record as it is. Please look at it once more and save again.",
            null
        );
    }

    private async ValueTask<Answer> InvalidAsync(List<Proposal> proposals, FormContract? contract)
    {
        // All other faults are reported too.
        await CheckAsync(proposals, saving.Plainly(visit));
        return await FormAsync(new Outcome.Invalid(), 422, null, contract);
    }

    /// <summary>The source cannot make the change now. What was typed must not be lost.</summary>
    private async ValueTask<Answer> LaterAsync(FormContract contract, SourceException trouble)
    {
        visit.Trace.Why = trouble.Message;
        _draft.General.Clear();
        return await FormAsync(new Outcome.Unavailable(trouble.Trouble), 503, SaveSteps.Later, contract) with
        {
            RetryAfterSeconds = 5,
        };
    }

    private async ValueTask<Answer> SavedAsync(MadeChange made, List<ColumnValue> values)
    {
        visit.Trace.Why = $"{values.Count} fields were changed.";
        if (visit.Request.Method == "PATCH")
            return await ReadBackAsync(made);
        return SaveSteps.Led(
            new Outcome.Saved(),
            made.Location,
            made.IsVisible ? $"Saved: {made.Label}." : $"Saved: {made.Label}. It is not shown in this app any more."
        );
    }

    /// <summary>The record as it is after a program changed it, with its new version.</summary>
    private async ValueTask<Answer> ReadBackAsync(MadeChange made)
    {
        if (made.IsVisible && visit.Site.Find(page.Name) is not null && made.Keys(page) is { } keys)
        {
            var rows = visit.Rows.Lend(page.Lookup.Load.Width);
            await saving.Plainly(visit)(page.Lookup.Load, keys, rows);
            if (Loading.Decide(page.Lookup, rows, keys) is { Outcome: Outcome.Found, Row: var row })
            {
                (_found, _draft) = (new FoundRecord(rows[row], keys, null), new Draft(page.Form));
                return await FormAsync(new Outcome.Saved(), 200, null, null);
            }
        }

        return new Answer(new Outcome.Saved(), 200, new SavedView(visit.Site.Frame, page.Name, made.Id, made.Location));
    }

    private async ValueTask<Answer> NothingAsync()
    {
        visit.Trace.Why = "Nothing differs from what is there.";
        _draft = new Draft(page.Form);
        if (visit.Request.Method == "PATCH")
            return await FormAsync(new Outcome.Saved(), 200, null, null);
        using var address = new Utf8Buffer(128);
        var location =
            (page.Then ?? page.Cancel)?.TryWrite(_found.Row, address) == true
                ? address.ToString()
                : page.Changes.Otherwise.Address;
        return SaveSteps.Led(new Outcome.Saved(), location, "Nothing was changed: all fields are as they were.");
    }

    /// <summary>The record was deleted while its form was open. What was typed stays on screen.</summary>
    private async ValueTask<Answer> LostAsync(LoadDecision decision)
    {
        visit.Trace.Why = $"It was there a moment ago: {decision.Why}";
        return await TypedAsync(Answer.Of(decision.Outcome, Messages.Unknown(visit.Site, page, _found.TextsOn(page))));
    }

    /// <summary>
    /// Shows for each field the original value, the other person's and the visitor's. If both changed a field, the visitor
    /// chooses. The next save is checked against the present record.
    /// </summary>
    private async ValueTask<Answer> ConflictAsync(FormContract contract)
    {
        await _comparison.CompareAsync(_draft, contract, _found.Row);
        visit.Trace.Why =
            $"Somebody else changed {string.Join(", ", _draft.Clashes.Keys.DefaultIfEmpty("the record"))} "
            + "since the form was made.";
        var said =
            _draft.Undecided.Count > 0
                ? "Where both of you changed the same field, choose which value is to stay, then save again."
            : _draft.Clashes.Count > 0 ? "Your own changes are in other fields: look at the form once more and save again."
            : "Its version is another one, though none of these fields differs: look at the form once more and save again.";
        return await FormAsync(
            new Outcome.Conflict(),
            409,
            $"Somebody else changed this {page.Record!.One} while you had it open, so nothing was saved yet. {said}",
            null
        );
    }

    /// <inheritdoc cref="EditForm.ShowAsync"/>
    private ValueTask<Answer> FormAsync(Outcome outcome, int status, string? notice, FormContract? contract) =>
        _form.ShowAsync(_found, _draft, outcome, status, notice, contract);

    private string VersionOf(Row row) => _form.VersionOf(row);

    private Func<SiteField, TypedValue?> StoredIn(Row row) => field => StoredValue.Of(row, page.OrdinalOf(field));

    private TypedValue[] KeyOf(Row row) => [.. page.Record!.Key.Select(field => StoredValue.Of(row, page.OrdinalOf(field)))];
}
