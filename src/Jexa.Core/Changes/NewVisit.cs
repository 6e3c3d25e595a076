using Jexa.Core.Edits;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Core.Changes;

/// <summary>Visits a page that makes a record: shows its form, or makes what was sent.</summary>
internal sealed class NewVisit(FormMaker forms, SaveSteps saving)
{
    /// <summary>What the address says of the new record: the ID texts, the values, and what is wrong with them.</summary>
    private sealed record Named(string?[] Texts, TypedValue?[] Values, Answer? Refused)
    {
        /// <summary>The page of the record that the new one belongs to: the way out where there is no list.</summary>
        public PlainLink? Back { get; set; }
    }

    public async ValueTask<Answer> RunAsync(Visit visit, NewPage page)
    {
        var request = visit.Request;
        var named = Read(visit, page);
        if (named.Refused is { } refused)
            return refused;
        var draft =
            request.IsSafe ? new Draft(page.Form)
            : request.Sent.Json is { } json ? Draft.OfJson(page.Form, json)
            : Draft.OfForm(page.Form, request.Sent);
        if (await ParentsAsync(visit, page, named, draft) is { } unknown)
            return unknown;
        if (request.IsSafe)
            return await FormAsync(visit, page, named, draft, new Outcome.Shown(), 200, null, null);
        return request.Sent.Json is null
            ? await PostAsync(visit, page, named, draft)
            : await PostJsonAsync(visit, page, named, draft);
    }

    private static Named Read(Visit visit, NewPage page)
    {
        var (site, request, trace) = (visit.Site, visit.Request, visit.Trace);
        var texts = new string?[page.Parameters.Count];
        var values = new TypedValue?[texts.Length];
        Answer? refused = null;
        var canonical = visit.Asked == page.Head;
        for (var i = 0; i < texts.Length; i++)
        {
            var parameter = page.Parameters[i];
            var raw = ParameterReader.Read(request.Target, visit.Asked.Find(parameter.Name));
            var reading = ParameterReader.Value(raw, parameter.Key);
            trace.Add(new TracedParameter(parameter.Name, raw.Text, reading));
            if (reading.Fault != KeyFault.None)
                refused ??= Answer.Of(
                    new Outcome.Malformed(parameter.Name, reading.Fault),
                    Messages.MalformedNew(site, page, parameter, raw, reading.Fault)
                );
            else if (reading.Value is null && parameter.Required)
                refused ??= Missing(visit, page, parameter);
            else if (reading.Value is { } value)
                (values[i], texts[i], canonical) = (value, parameter.Key.Write(value), canonical && reading.IsCanonical);
        }

        foreach (var pair in request.Target.Query)
            if (!visit.Asked.Template.QueryParameters.Contains(pair.Name))
                trace.AddIgnored(pair.Name);
        trace.End(VisitStep.Parse);
        if (refused is null && !canonical && request.IsSafe)
        {
            trace.Why =
                visit.Asked == page.Head
                    ? "The parameters are values, but not in their canonical spelling."
                    : VisitTrace.FormerPath;
            refused = new Answer(new Outcome.NotCanonical(), 301, null, Address(page, texts));
        }

        return new Named(texts, values, refused);
    }

    private static Answer Missing(Visit visit, NewPage page, PageParameter parameter)
    {
        var outcome = new Outcome.Missing(parameter.Name);
        return visit.Request is { IsSafe: true, Reader: Reader.Person } && page.MissingPage is { } list
            ? MissingParameters.LeadTo(list, page, outcome)
            : Answer.Of(
                outcome,
                Messages.MissingNew(visit.Site, page, parameter, MissingParameters.StatusFor(visit.Request, null))
            );
    }

    /// <summary>The records that the address names must be there; they then decide their fields.</summary>
    private async ValueTask<Answer?> ParentsAsync(Visit visit, NewPage page, Named named, Draft draft)
    {
        foreach (var parent in page.Parents)
        {
            if (parent.Parameters.Any(number => named.Values[number] is null))
                continue;
            var keys = parent.Parameters.Select(number => named.Values[number]!).ToArray();
            var rows = visit.Rows.Lend(parent.Lookup.Load.Width);
            await saving.Plainly(visit)(parent.Lookup.Load, keys, rows);
            visit.Trace.End(VisitStep.Load);
            var decision = Loading.Decide(parent.Lookup, rows, keys);
            if (decision.Outcome is not Outcome.Found)
            {
                visit.Trace.Why = $"The {parent.Record.One} that the address names: {decision.Why}";
                if (decision.Outcome is Outcome.NotCanonical && visit.Request.IsSafe)
                {
                    var exact = Loading.KeyOf(parent.Lookup, rows[decision.Row]);
                    for (var i = 0; i < exact.Length; i++)
                        named.Texts[parent.Parameters[i]] = parent.Lookup.Keys[i].Write(exact[i]);
                    return new Answer(decision.Outcome, 301, null, Address(page, named.Texts));
                }

                return Answer.Of(
                    decision.Outcome is Outcome.NotCanonical ? new Outcome.Unknown() : decision.Outcome,
                    Messages.UnknownParentOfNew(visit.Site, page, parent, named.Texts, decision.Outcome is Outcome.Ambiguous)
                );
            }

            using var label = new Utf8Buffer(64);
            parent.Label.Write(rows[decision.Row], label);
            if (parent.Trail.Steps is [.., { Link: { } own }])
            {
                using var address = new Utf8Buffer(64);
                if (own.TryWrite(rows[decision.Row], address))
                    named.Back = new PlainLink(own.Page, label.ToString(), address.ToString());
            }

            if (parent.Parameters.Count == 1 && page.Form.Find(page.Parameters[parent.Parameters[0]].Field.Name) is { } entry)
                draft.Fixed[entry.Name] = label.ToString();
        }

        for (var i = 0; i < named.Texts.Length; i++)
        {
            if (named.Texts[i] is not { } text || page.Form.Find(page.Parameters[i].Field.Name) is not { } entry)
                continue;
            draft.Fixed.TryAdd(entry.Name, text);
            draft.Set(entry.Name, text);
        }

        return null;
    }

    private async ValueTask<Answer> PostAsync(Visit visit, NewPage page, Named named, Draft draft)
    {
        var (contract, fault) = saving.Open(visit, page, [.. named.Texts.Select(text => text ?? "")]);
        if (fault != ContractFault.None)
        {
            visit.Trace.Why = $"The form's contract cannot be taken: {fault}.";
            if (fault == ContractFault.OtherRecord)
                return Answer.Of(new Outcome.Untrusted(), Messages.Untrusted(visit.Site, page, fault.Said()));
            return await FormAsync(
                visit,
                page,
                named,
                draft,
                fault == ContractFault.Expired ? new Outcome.Invalid() : new Outcome.Untrusted(),
                fault == ContractFault.Expired ? 422 : 403,
                contract is null
                    ? $"{fault.Said()} Nothing was saved; what you typed is still here. Please look at it once more "
                        + "and save again."
                    : fault.Said(),
                null
            );
        }

        if (await SpentAsync(visit, page, named, draft, contract!, awaitIt: false) is { } spent)
            return spent;
        if (draft.OnlyAsks)
            return await FormAsync(visit, page, named, draft, new Outcome.Shown(), 200, null, contract);
        return await SaveAsync(visit, page, named, draft, contract, contract!.Token);
    }

    private async ValueTask<Answer?> SpentAsync(
        Visit visit,
        NewPage page,
        Named named,
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
        if (used.State == ChangeState.Undetermined)
            return await FormAsync(visit, page, named, draft, new Outcome.Spent(), 409, SaveSteps.Undetermined, null);
        return await FormAsync(
            visit,
            page,
            named,
            draft,
            new Outcome.Spent(),
            409,
            $"This form was saved before, with other content, and made another {page.Record!.One}. Save "
                + "again to make one of what stands here now.",
            null
        );
    }

    private async ValueTask<Answer> PostJsonAsync(Visit visit, NewPage page, Named named, Draft draft)
    {
        foreach (var entry in page.Form.Entries)
            if (draft.TextOf(entry.Name) is null && draft.FaultsOf(entry.Name).Count == 0)
                draft.Set(entry.Name, forms.Beginning(entry.Field));
        if (draft.Strays.Count == 0)
            return await SaveAsync(visit, page, named, draft, null, FormContract.NewToken());
        var proposals = draft.Propose(null);
        await DraftChecks.RunAsync(draft, proposals, _ => null, null, saving.Plainly(visit), visit.Rows);
        return await FormAsync(visit, page, named, draft, new Outcome.Invalid(), 422, null, null);
    }

    private async ValueTask<Answer> SaveAsync(
        Visit visit,
        NewPage page,
        Named named,
        Draft draft,
        FormContract? contract,
        string token
    )
    {
        var proposals = draft
            .Propose(null)
            .Where(proposal => !(proposal.Value is TypedValue.Empty && proposal.Entry.Field.LeftToSource))
            .ToList();
        var fixedValues = Outside(page, named);
        try
        {
            if (draft.HasFaults)
            {
                await DraftChecks.RunAsync(
                    draft,
                    proposals,
                    field => fixedValues.GetValueOrDefault(field.Name),
                    null,
                    saving.Plainly(visit),
                    visit.Rows
                );
                return await FormAsync(visit, page, named, draft, new Outcome.Invalid(), 422, null, contract);
            }

            await using var session = await page.Changes.Record.Source.BeginWriteAsync(visit.Cancellation);
            if (contract is not null && await saving.IsUsedAsync(session, token, visit.Cancellation))
            {
                await session.DisposeAsync();
                return await SpentAsync(visit, page, named, draft, contract, awaitIt: true) ?? EditVisit.Busy(visit, page);
            }

            var values = await DraftChecks.RunAsync(
                draft,
                proposals,
                field => fixedValues.GetValueOrDefault(field.Name),
                null,
                saving.Within(session, visit),
                visit.Rows
            );
            if (draft.HasFaults)
            {
                await session.DisposeAsync();
                return await FormAsync(visit, page, named, draft, new Outcome.Invalid(), 422, null, contract);
            }

            values.AddRange(fixedValues.Select(pair => new ColumnValue(page.Record!.Find(pair.Key)!.Column.Name, pair.Value)));
            values.AddRange(
                page.Form.KeyMade.Select(field => new ColumnValue(
                    field.Column.Name,
                    new TypedValue.Uuid(Guid.CreateVersion7(saving.Now))
                ))
            );
            values.AddRange(saving.Kept(page.Changes, null));
            var write = new RecordWrite.Insert(
                page.Record!.Table.Name,
                values,
                [.. page.Record.Key.Select(field => field.Column.Name)]
            );
            var made = await saving.Maker.MakeAsync(
                session,
                new WantedChange(page.Changes, page.Name, ChangeKind.Added, write, null, token, visit.Request.Sent.Digest),
                visit.Trace,
                visit.Rows,
                visit.Cancellation
            );
            if (made is null)
            {
                await session.DisposeAsync();
                return EditVisit.Busy(visit, page);
            }

            visit.Trace.Why = "The record was made.";
            return contract is null
                ? new Answer(
                    new Outcome.Saved(),
                    201,
                    new SavedView(visit.Site.Frame, page.Name, made.Id, made.Location),
                    made.Location
                )
                : SaveSteps.Led(
                    new Outcome.Saved(),
                    made.Location,
                    made.IsVisible ? $"Added: {made.Label}." : $"Added: {made.Label}. It is not shown in this app."
                );
        }
        catch (RefusedException refusal)
        {
            visit.Trace.Why = refusal.Message;
            DraftChecks.Explain(draft, refusal, page.Record!, null);
            return await FormAsync(visit, page, named, draft, new Outcome.Refused(), 409, null, contract);
        }
        catch (SourceException trouble) when (trouble.Trouble != SourceTrouble.Failed && contract is not null)
        {
            visit.Trace.Why = trouble.Message;
            return await FormAsync(
                visit,
                page,
                named,
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
    }

    /// <summary>Values that the address gives for fields that the form does not ask for.</summary>
    private static Dictionary<string, TypedValue> Outside(NewPage page, Named named)
    {
        var outside = new Dictionary<string, TypedValue>();
        for (var i = 0; i < named.Values.Length; i++)
            if (named.Values[i] is { } value && page.Form.Find(page.Parameters[i].Field.Name) is null)
                outside[page.Parameters[i].Field.Name] = value;
        return outside;
    }

    private async ValueTask<Answer> FormAsync(
        Visit visit,
        NewPage page,
        Named named,
        Draft draft,
        Outcome outcome,
        int status,
        string? notice,
        FormContract? contract
    )
    {
        var json = visit.Request.Reader == Reader.Program;
        var inputs = await forms.InputsAsync(visit, draft, null);
        string[] ids = [.. named.Texts.Select(text => text ?? "")];
        if (!json)
            contract = contract is null
                ? new FormContract(
                    FormContract.NewToken(),
                    page.Name,
                    ids,
                    visit.Visitor,
                    saving.Now,
                    new Dictionary<string, TypedValue>(),
                    "",
                    []
                )
                : contract with
                {
                    Visitor = visit.Visitor,
                };
        var cancel = (page.Cancel ?? named.Back) is { } way ? way with { Text = "Do not add it" } : null;
        var view = new FormView(
            visit.Site.Frame,
            page.Name,
            outcome.PublicWord,
            status,
            page.Title,
            Address(page, named.Texts),
            contract?.Seal(saving.Seal) ?? "",
            notice,
            inputs,
            EditVisit.Faults(inputs, draft),
            $"Add {page.Record!.One}",
            cancel,
            [],
            page.Cancel,
            null,
            null,
            []
        )
        {
            Strays = draft.Strays,
        };
        return visit.Form(outcome, status, view);
    }

    private static string Address(NewPage page, string?[] texts) =>
        page.Head.Builder.Build([.. texts.Select(text => text is null ? Array.Empty<string>() : [text])])
        ?? page.Head.AddressWithoutParameters
        ?? "";
}
