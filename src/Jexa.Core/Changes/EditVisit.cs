using Jexa.Core.Edits;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Core.Changes;

/// <summary>Visits a page that changes one record: shows its form, or makes the change that was sent.</summary>
internal sealed class EditVisit(RecordFinder finder, FormMaker forms, SaveSteps saving)
{
    private const string Button = "Save";

    public async ValueTask<Answer> RunAsync(Visit visit, EditPage page)
    {
        var request = visit.Request;
        var found = await finder.FindAsync(visit, page);
        if (found.Refused is { } refused)
            return request.IsSafe || request.Sent.Json is not null ? refused : await TypedAsync(visit, page, refused);
        if (request.IsSafe)
            return await FormAsync(visit, page, found, new Draft(page.Form), Outcome.Found.Value, 200, null, null);
        return request.Method == "PATCH" ? await PatchAsync(visit, page, found) : await PostAsync(visit, page, found);
    }

    private async ValueTask<Answer> PostAsync(Visit visit, EditPage page, FoundRecord found)
    {
        var sent = visit.Request.Sent;
        var draft = Draft.OfForm(page.Form, sent);
        var (contract, fault) = saving.Open(visit, page, found.TextsOn(page), RecordFinder.TextsOf(page, found.Keys));
        if (fault != ContractFault.None)
        {
            visit.Trace.Why = $"The form's contract cannot be taken: {fault}.";
            if (fault is ContractFault.OtherRecord)
                return Answer.Of(new Outcome.Untrusted(), Messages.Untrusted(visit.Site, page, fault.Said()));

            // Without the values that the form was made from nobody can tell what of it was meant as a change.
            if (contract is null)
                return await TypedAsync(
                    visit,
                    page,
                    Answer.Of(new Outcome.Untrusted(), Messages.Untrusted(visit.Site, page, fault.Said())),
                    found.Row
                );
            await CompareAsync(visit, page, found.Row, draft, contract);
            return await FormAsync(
                visit,
                page,
                found,
                draft,
                fault == ContractFault.Expired ? new Outcome.Invalid() : new Outcome.Untrusted(),
                fault == ContractFault.Expired ? 422 : 403,
                fault.Said(),
                null
            );
        }

        if (await SpentAsync(visit, page, found, draft, contract!, awaitIt: false) is { } spent)
            return spent;
        if (draft.OnlyAsks)
            return await FormAsync(visit, page, found, draft, Outcome.Found.Value, 200, null, contract);
        foreach (var field in contract!.Undecided.Where(field => page.Form.Find(field) is not null))
        {
            var chosen = sent.One(SentForm.Choose + field);
            draft.Undecided[field] = chosen is "theirs" or "mine" ? chosen : null;
            if (chosen == "theirs")
                draft.Leave(field);
            else if (chosen != "mine")
                draft.AddFault(field, "Please choose which of the two values is to stay.");
        }

        var proposals = draft.Propose(found.Row);
        if (draft.HasFaults)
            return await InvalidAsync(visit, page, found, draft, proposals, contract);
        return await SaveAsync(visit, page, found, draft, contract, contract.Token, sent.Digest);
    }

    /// <summary>
    /// A form that was used already: sent again it leads to what it made, with other content it is shown against the record as it
    /// is. One that is only intended is decided by the source itself.
    /// </summary>
    private async ValueTask<Answer?> SpentAsync(
        Visit visit,
        EditPage page,
        FoundRecord found,
        Draft draft,
        FormContract contract,
        bool awaitIt
    )
    {
        if (await saving.FindAsync(contract.Token, awaitIt, visit.Cancellation) is not { } used)
            return null;
        if (used.What.Digest == visit.Request.Sent.Digest && used.State == ChangeState.Made)
            return SaveSteps.Again(visit, used);
        if (used.State == ChangeState.Intended)
            return null;
        await CompareAsync(visit, page, found.Row, draft, contract);
        if (used.State == ChangeState.Undetermined)
            return await FormAsync(visit, page, found, draft, new Outcome.Spent(), 409, SaveSteps.Undetermined, null);
        return await FormAsync(
            visit,
            page,
            found,
            draft,
            new Outcome.Spent(),
            409,
            "This form was saved before, with other content. Below is what you typed now, against the "
                + "record as it is. Please look at it once more and save again.",
            null
        );
    }

    /// <summary>Another change of the same token is under way, or nobody can tell yet.</summary>
    internal static Answer Busy(Visit visit, Page page) =>
        Answer.Of(new Outcome.Unavailable(SourceTrouble.TooSlow), Messages.InFlight(visit.Site, page)) with
        {
            RetryAfterSeconds = 5,
        };

    private async ValueTask<Answer> InvalidAsync(
        Visit visit,
        EditPage page,
        FoundRecord found,
        Draft draft,
        List<Proposal> proposals,
        FormContract? contract
    )
    {
        // Whatever else is wrong is said at once.
        await DraftChecks.RunAsync(
            draft,
            proposals,
            StoredIn(page, found.Row),
            KeyOf(page, found.Row),
            saving.Plainly(visit),
            visit.Rows
        );
        return await FormAsync(visit, page, found, draft, new Outcome.Invalid(), 422, null, contract);
    }

    private async ValueTask<Answer> SaveAsync(
        Visit visit,
        EditPage page,
        FoundRecord found,
        Draft draft,
        FormContract? contract,
        string token,
        string digest
    )
    {
        try
        {
            await using var session = await page.Changes.Record.Source.BeginWriteAsync(visit.Cancellation);
            if (contract is not null && await saving.IsUsedAsync(session, token, visit.Cancellation))
            {
                await session.DisposeAsync();
                return await SpentAsync(visit, page, found, draft, contract, awaitIt: true) ?? Busy(visit, page);
            }

            var run = saving.Within(session, visit);
            var rows = visit.Rows.Lend(page.Lookup.Load.Width);
            await saving.LockAsync(session, page.Lookup.Load, found.Keys, rows, visit.Trace, visit.Cancellation);
            var decision = Loading.Decide(page.Lookup, rows, found.Keys);
            if (decision.Outcome is not Outcome.Found)
            {
                await session.DisposeAsync();
                return await LostAsync(visit, page, found, decision);
            }

            var now = found with { Row = rows[decision.Row] };
            if (
                contract is null
                && visit.Request.IfMatch is { } wanted
                && wanted != "*"
                && !Holds(wanted, VersionOf(page, now.Row))
            )
                return SaveSteps.Stale(visit, page);
            if (contract is not null && Clashes(page, draft, contract, now.Row))
            {
                await session.DisposeAsync();
                return await ConflictAsync(visit, page, now, draft, contract);
            }

            var proposals = draft.Propose(now.Row);
            if (proposals.Count == 0 && !draft.HasFaults)
                return await NothingAsync(visit, page, now);
            var values = await DraftChecks.RunAsync(
                draft,
                proposals,
                StoredIn(page, now.Row),
                KeyOf(page, now.Row),
                run,
                visit.Rows
            );
            if (draft.HasFaults)
            {
                await session.DisposeAsync();
                return await FormAsync(visit, page, now, draft, new Outcome.Invalid(), 422, null, contract);
            }

            var before = page.Columns.Select(column => StoredValue.Of(now.Row, column.Ordinal)).ToArray();
            var key = page
                .Changes.Key.Zip(ChangeMaker.KeyOf(page.Changes, before), (column, value) =>
                    new ColumnValue(column.Field.Column.Name, value)
                )
                .ToList();
            var write = new RecordWrite.Update(page.Record!.Table.Name, key, [.. values, .. saving.Kept(page.Changes, before)]);
            var made = await saving.Maker.MakeAsync(
                session,
                new WantedChange(page.Changes, page.Name, ChangeKind.Changed, write, before, token, digest),
                visit.Trace,
                visit.Rows,
                visit.Cancellation
            );
            if (made is null)
            {
                await session.DisposeAsync();
                return Busy(visit, page);
            }

            return await SavedAsync(visit, page, made, values);
        }
        catch (RefusedException refusal)
        {
            visit.Trace.Why = refusal.Message;
            DraftChecks.Explain(
                draft,
                refusal,
                page.Record!,
                [.. draft.Propose(found.Row).Select(proposal => proposal.Entry.Of)]
            );
            return await FormAsync(visit, page, found, draft, new Outcome.Refused(), 409, null, contract);
        }
        catch (SourceException trouble) when (trouble.Trouble != SourceTrouble.Failed && contract is not null)
        {
            return await LaterAsync(visit, page, found, draft, contract, trouble);
        }
    }

    /// <summary>The source cannot take the change just now: what was typed must not be lost for that.</summary>
    private async ValueTask<Answer> LaterAsync(
        Visit visit,
        EditPage page,
        FoundRecord found,
        Draft draft,
        FormContract contract,
        SourceException trouble
    )
    {
        visit.Trace.Why = trouble.Message;
        draft.General.Clear();
        return await FormAsync(
            visit,
            page,
            found,
            draft,
            new Outcome.Unavailable(trouble.Trouble),
            503,
            "This could not be saved just now. What you typed is still here: please save again in a moment.",
            contract
        ) with
        {
            RetryAfterSeconds = 5,
        };
    }

    private async ValueTask<Answer> SavedAsync(Visit visit, EditPage page, MadeChange made, List<ColumnValue> values)
    {
        visit.Trace.Why = $"{values.Count} fields were changed.";
        if (visit.Request.Method == "PATCH")
            return await ReadBackAsync(visit, page, made);
        return SaveSteps.Led(
            new Outcome.Saved(),
            made.Location,
            made.IsVisible ? $"Saved: {made.Label}." : $"Saved: {made.Label}. It is not shown in this app any more."
        );
    }

    /// <summary>The record as it is after a program changed it, with its new version.</summary>
    private async ValueTask<Answer> ReadBackAsync(Visit visit, EditPage page, MadeChange made)
    {
        if (!made.IsVisible || visit.Site.Find(page.Name) is null)
            return new Answer(new Outcome.Saved(), 200, new SavedView(visit.Site.Frame, page.Name, made.Id, made.Location));
        using var address = new Utf8Buffer(128);
        var rows = visit.Rows.Lend(page.Lookup.Load.Width);
        var keys = made.Keys(page);
        if (keys is null)
            return new Answer(new Outcome.Saved(), 200, new SavedView(visit.Site.Frame, page.Name, made.Id, made.Location));
        await saving.Plainly(visit)(page.Lookup.Load, keys, rows);
        if (Loading.Decide(page.Lookup, rows, keys) is not { Outcome: Outcome.Found, Row: var row })
            return new Answer(new Outcome.Saved(), 200, new SavedView(visit.Site.Frame, page.Name, made.Id, made.Location));
        return await FormAsync(
            visit,
            page,
            new FoundRecord(rows[row], keys, null),
            new Draft(page.Form),
            new Outcome.Saved(),
            200,
            null,
            null
        );
    }

    private async ValueTask<Answer> NothingAsync(Visit visit, EditPage page, FoundRecord now)
    {
        visit.Trace.Why = "Nothing differs from what is there.";
        if (visit.Request.Method == "PATCH")
            return await FormAsync(visit, page, now, new Draft(page.Form), new Outcome.Saved(), 200, null, null);
        using var address = new Utf8Buffer(128);
        var location = page.Cancel?.TryWrite(now.Row, address) == true ? address.ToString() : page.Changes.Otherwise.Address;
        return SaveSteps.Led(new Outcome.Saved(), location, "Nothing was changed: all fields are as they were.");
    }

    /// <summary>The record went while its form was open: what was typed stays on screen.</summary>
    private async ValueTask<Answer> LostAsync(Visit visit, EditPage page, FoundRecord found, LoadDecision decision)
    {
        visit.Trace.Why = $"It was there a moment ago: {decision.Why}";
        return await TypedAsync(
            visit,
            page,
            Answer.Of(decision.Outcome, Messages.Unknown(visit.Site, page, found.TextsOn(page)))
        );
    }

    /// <param name="row">The record where it is there after all: what says the same is not told again.</param>
    private async ValueTask<Answer> TypedAsync(Visit visit, EditPage page, Answer refused, Row? row = null)
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

    private async ValueTask<Answer> PatchAsync(Visit visit, EditPage page, FoundRecord found)
    {
        if (visit.Request.IfMatch is null)
            return SaveSteps.WhichVersion(visit, page);
        if (visit.Request.IfMatch != "*" && !Holds(visit.Request.IfMatch, VersionOf(page, found.Row)))
            return SaveSteps.Stale(visit, page);
        var draft = Draft.OfJson(page.Form, visit.Request.Sent.Json!.Value);
        var proposals = draft.Propose(found.Row);
        if (draft.HasFaults || draft.Strays.Count > 0)
            return await InvalidAsync(visit, page, found, draft, proposals, null);
        return await SaveAsync(visit, page, found, draft, null, FormContract.NewToken(), visit.Request.Sent.Digest);
    }

    /// <summary>Whether one of the entity tags is this version (strong comparison, RFC 9110 section 8.8.3.2).</summary>
    public static bool Holds(string ifMatch, string version) => ifMatch.Split(',').Any(tag => tag.Trim() == $"\"{version}\"");

    /// <summary>Whether anybody else changed a field of the form, or its version, since the form was made.</summary>
    private static bool Clashes(EditPage page, Draft draft, FormContract contract, Row now) =>
        page.Form.Entries.Any(entry =>
            contract.Base.TryGetValue(entry.Name, out var was) && !StoredValue.AreSame(was, BaseOf(entry, now, contract.Token))
        )
        || (
            page.Changes.Kept.FirstOrDefault(kept => kept.Kind == KeptKind.Version) is { } version
            && contract.Base.TryGetValue(version.Field.Name, out var number)
            && !StoredValue.AreSame(number, StoredValue.Of(now, OrdinalOf(page, version.Field)))
        );

    private static int OrdinalOf(EditPage page, SiteField field) => page.Columns.First(column => column.Field == field).Ordinal;

    private static TypedValue BaseOf(FormEntry entry, Row row, string token) =>
        entry.Field.IsWithheld(row)
            ? StoredValue.Withheld
            : FormContract.Carried(token, entry.Field.Secret, StoredValue.Of(row, entry.Field.Stored));

    /// <summary>
    /// Shows field by field what it was, what the other wrote and what this visitor wrote. Where both changed one field, the
    /// visitor chooses; the next save is against the record as it is now.
    /// </summary>
    private async ValueTask<Answer> ConflictAsync(Visit visit, EditPage page, FoundRecord now, Draft draft, FormContract contract)
    {
        await CompareAsync(visit, page, now.Row, draft, contract);
        visit.Trace.Why =
            $"Somebody else changed {string.Join(", ", draft.Clashes.Keys.DefaultIfEmpty("the record"))} "
            + "since the form was made.";
        var said =
            draft.Undecided.Count > 0
                ? "Where both of you changed the same field, choose which value is to stay, then save again."
            : draft.Clashes.Count > 0 ? "Your own changes are in other fields: look at the form once more and save again."
            : "Its version is another one, though none of these fields differs: look at the form once more and save again.";
        return await FormAsync(
            visit,
            page,
            now,
            draft,
            new Outcome.Conflict(),
            409,
            $"Somebody else changed this {page.Record!.One} while you had it open, so nothing was saved yet. {said}",
            null
        );
    }

    /// <summary>
    /// Holds what was typed against what the form was made from and what the record is now: only what the visitor changed is kept
    /// as typed, so that nothing of anybody else's is written over by a form that goes on from here.
    /// </summary>
    private async ValueTask CompareAsync(Visit visit, EditPage page, Row row, Draft draft, FormContract contract)
    {
        draft.Undecided.Clear();
        foreach (var entry in page.Form.Entries)
        {
            if (!contract.Base.TryGetValue(entry.Name, out var was))
                continue;
            var current = BaseOf(entry, row, contract.Token);
            var text = draft.TextOf(entry.Name);
            var isDigest = !entry.Field.Secret && was is TypedValue.Bytes { Value.Length: 32 };
            var before =
                entry.Field.Secret ? ""
                : isDigest ? "(a long text)"
                : FieldText.OfStored(entry.Field, was);
            var mine =
                text is not null
                && (
                    entry.Field.Secret ? text.Length > 0
                    : isDigest
                        ? !new[] { text, text.Replace("\n", "\r\n") }.Any(one =>
                            StoredValue.AreSame(was, FormContract.Carried(contract.Token, true, new TypedValue.Text(one)))
                        )
                    : text != before && !SameValue(entry.Field, text, before)
                );
            if (StoredValue.AreSame(was, current))
            {
                if (!mine)
                    draft.Leave(entry.Name);
                continue;
            }

            var theirs = FieldText.Of(entry.Field, row);
            if (!mine)
                draft.Leave(entry.Name);
            else if (entry.Field.Secret || (text != theirs && !SameValue(entry.Field, text!, theirs)))
                draft.Undecided[entry.Name] = null;
            draft.Clashes[entry.Name] = new FormClash(
                await forms.ShownAsync(visit, entry, before),
                await forms.ShownAsync(visit, entry, theirs),
                mine ? await forms.ShownAsync(visit, entry, text!) : null
            );
        }
    }

    private static bool SameValue(FormField field, string one, string other) =>
        FieldReader.Read(field, one).Value is { } a && FieldReader.Read(field, other).Value is { } b && a.Equals(b);

    /// <param name="contract">The contract that goes on: what is shown again is still made from the same values. Null for the
    /// record as it is.</param>
    private async ValueTask<Answer> FormAsync(
        Visit visit,
        EditPage page,
        FoundRecord found,
        Draft draft,
        Outcome outcome,
        int status,
        string? notice,
        FormContract? contract
    )
    {
        var row = found.Row;
        var json = visit.Request.Reader == Reader.Program;
        var inputs = json && !draft.HasFaults ? [] : await forms.InputsAsync(visit, draft, row);
        var version = VersionOf(page, row);
        var ids = RecordFinder.TextsOf(page, found.Keys);
        if (!json)
        {
            if (contract is null)
            {
                var token = FormContract.NewToken();
                var values = page.Form.Entries.ToDictionary(entry => entry.Name, entry => BaseOf(entry, row, token));
                foreach (var kept in page.Changes.Kept.Where(kept => kept.Kind == KeptKind.Version))
                    values[kept.Field.Name] = StoredValue.Of(row, OrdinalOf(page, kept.Field));
                contract = new FormContract(
                    token,
                    page.Name,
                    ids,
                    visit.Visitor,
                    saving.Now,
                    values,
                    version,
                    [.. draft.Undecided.Keys]
                );
            }
            else
            {
                contract = contract with { Visitor = visit.Visitor, Ids = ids };
            }
        }

        using var text = new Utf8Buffer(128);
        page.Title.Write(row, text);
        var heading = text.ToString();
        text.Truncate(0);
        var cancel =
            page.Cancel?.TryWrite(row, text) == true ? new PlainLink(page.Cancel.Page, "Do not save", text.ToString())
            : page.Back is { } list ? list with { Text = "Do not save" }
            : null;
        var view = new FormView(
            visit.Site.Frame,
            page.Name,
            outcome.PublicWord,
            status,
            heading,
            RecordFinder.AddressOf(page, found.Keys) ?? "",
            contract?.Seal(saving.Seal) ?? "",
            notice,
            inputs,
            Faults(inputs, draft),
            Button,
            cancel,
            Links(page, row),
            page.Back,
            row,
            page.Own,
            [.. page.Form.Entries.Where(entry => !entry.Field.Secret).Select(entry => entry.Shown!)]
        )
        {
            Strays = draft.Strays,
            Undecided = draft.Undecided,
        };
        return visit.Form(outcome, status, view) with { Version = status == 200 ? version : null };
    }

    internal static List<FormFault> Faults(IReadOnlyList<FormInput> inputs, Draft draft) =>
        [
            .. inputs.SelectMany(input => input.Faults.Select(fault => new FormFault(input, fault))),
            .. draft.General.Select(fault => new FormFault(null, fault)),
        ];

    private static List<PlainLink> Links(EditPage page, Row row)
    {
        using var text = new Utf8Buffer(128);
        var links = new List<PlainLink>();
        foreach (var link in page.Apart)
        {
            text.Truncate(0);
            if (link.TryWrite(row, text))
                links.Add(new PlainLink(link.Page, link.Text, text.ToString()));
        }

        return links;
    }

    /// <summary>Another form is another representation: what a program holds of it is no longer the same.</summary>
    private string VersionOf(EditPage page, Row row) =>
        RecordVersion.Of(
            row,
            page.Columns,
            $"{page.Name}:{string.Join(',', page.Form.Entries.Select(entry => entry.Name))}",
            saving.VersionKey
        );

    private static Func<SiteField, TypedValue?> StoredIn(EditPage page, Row row) =>
        field => StoredValue.Of(row, OrdinalOf(page, field));

    private static TypedValue[] KeyOf(EditPage page, Row row) =>
        [.. page.Record!.Key.Select(field => StoredValue.Of(row, OrdinalOf(page, field)))];
}
