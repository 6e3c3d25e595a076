using Jexa.Core.Edits;
using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Core.Changes;

/// <summary>One visit to a page that makes a record: its form, or the record that was sent.</summary>
internal sealed class NewCase(Visit visit, NewPage page, NewAddress address, Draft draft, FormMaker forms, SaveSteps saving)
{
    private readonly Dictionary<string, TypedValue> _outside = address.OutsideForm(page);

    /// <summary>Shows the form as it begins.</summary>
    public ValueTask<Answer> ShowAsync() => FormAsync(new Outcome.Shown(), 200, null, null);

    /// <summary>Takes a form that a person sent.</summary>
    public async ValueTask<Answer> PostAsync()
    {
        var (contract, fault) = saving.Open(visit, page, address.Ids);
        if (fault != ContractFault.None)
            return await DistrustAsync(contract, fault);
        if (await SpentAsync(contract!, awaitIt: false) is { } spent)
            return spent;
        return draft.OnlyAsks
            ? await FormAsync(new Outcome.Shown(), 200, null, contract)
            : await SaveAsync(contract, contract!.Token);
    }

    /// <summary>Takes a record that a program sent.</summary>
    public async ValueTask<Answer> PostJsonAsync()
    {
        foreach (var entry in page.Form.Entries)
            if (draft.TextOf(entry.Name) is null && draft.FaultsOf(entry.Name).Count == 0)
                draft.Set(entry.Name, forms.Beginning(entry.Field));
        if (draft.Strays.Count == 0)
            return await SaveAsync(null, FormContract.NewToken());
        await CheckAsync(draft.Propose(null), saving.Plainly(visit));
        return await FormAsync(new Outcome.Invalid(), 422, null, null);
    }

    private async ValueTask<Answer> DistrustAsync(FormContract? contract, ContractFault fault)
    {
        visit.Trace.Why = $"The form's contract cannot be taken: {fault}.";
        if (fault == ContractFault.OtherRecord)
            return Answer.Of(new Outcome.Untrusted(), Messages.Untrusted(visit.Site, page, fault.Said()));
        var said = contract is null
            ? $"{fault.Said()} Nothing was saved; what you typed is still here. Please look at it once more and save again."
            : fault.Said();
        return fault == ContractFault.Expired
            ? await FormAsync(new Outcome.Invalid(), 422, said, null)
            : await FormAsync(new Outcome.Untrusted(), 403, said, null);
    }

    /// <summary>The answer to a form that was used already; null if it was not, or if the source itself decides.</summary>
    private async ValueTask<Answer?> SpentAsync(FormContract contract, bool awaitIt)
    {
        if (await saving.FindAsync(contract.Token, awaitIt, visit.Cancellation) is not { } used)
            return null;
        if (used.What.Digest == visit.Request.Sent.Digest && used.State == ChangeState.Made)
            return SaveSteps.Again(visit, used);
        if (used.State == ChangeState.Intended)
            return null;
        var said =
            used.State == ChangeState.Undetermined
                ? SaveSteps.Undetermined
                : $"This form was saved before, with other content, and made another {page.Record!.One}. Save again to make one "
                    + "of what stands here now.";
        return await FormAsync(new Outcome.Spent(), 409, said, null);
    }

    private async ValueTask<Answer> SaveAsync(FormContract? contract, string token)
    {
        try
        {
            return await TrySaveAsync(contract, token);
        }
        catch (RefusedException refusal)
        {
            visit.Trace.Why = refusal.Message;
            DraftChecks.Explain(draft, refusal, page.Record!, null);
            return await FormAsync(new Outcome.Refused(), 409, null, contract);
        }
        catch (SourceException trouble) when (trouble.Trouble != SourceTrouble.Failed && contract is not null)
        {
            visit.Trace.Why = trouble.Message;
            return await FormAsync(new Outcome.Unavailable(trouble.Trouble), 503, SaveSteps.Later, contract) with
            {
                RetryAfterSeconds = 5,
            };
        }
    }

    private async ValueTask<Answer> TrySaveAsync(FormContract? contract, string token)
    {
        var proposals = draft
            .Propose(null)
            .Where(proposal => !(proposal.Value is TypedValue.Empty && proposal.Entry.Field.LeftToSource))
            .ToList();
        if (draft.HasFaults)
        {
            await CheckAsync(proposals, saving.Plainly(visit));
            return await FormAsync(new Outcome.Invalid(), 422, null, contract);
        }

        await using var session = await page.Changes.Record.Source.BeginWriteAsync(visit.Cancellation);
        if (contract is not null && await saving.IsUsedAsync(session, token, visit.Cancellation))
        {
            await session.DisposeAsync();
            return await SpentAsync(contract, awaitIt: true) ?? SaveSteps.Busy(visit, page);
        }

        var values = await CheckAsync(proposals, saving.Within(session, visit));
        if (draft.HasFaults)
        {
            await session.DisposeAsync();
            return await FormAsync(new Outcome.Invalid(), 422, null, contract);
        }

        var made = await saving.Maker.MakeAsync(session, Wanted(values, token), visit);
        if (made is not null)
            return Saved(made, contract is not null);
        await session.DisposeAsync();
        return SaveSteps.Busy(visit, page);
    }

    private ValueTask<List<ColumnValue>> CheckAsync(IReadOnlyList<Proposal> proposals, QueryRun run) =>
        new DraftChecks(draft, field => _outside.GetValueOrDefault(field.Name), null, run, visit.Rows).RunAsync(proposals);

    private WantedChange Wanted(List<ColumnValue> values, string token)
    {
        var record = page.Record!;
        var write = new RecordWrite.Insert(
            record.Table.Name,
            [
                .. values,
                .. _outside.Select(pair => new ColumnValue(record.Find(pair.Key)!.Column.Name, pair.Value)),
                .. page.Form.KeyMade.Select(field => new ColumnValue(
                    field.Column.Name,
                    new TypedValue.Uuid(Guid.CreateVersion7(saving.Now))
                )),
                .. saving.Kept(page.Changes, null),
            ],
            [.. record.Key.Select(field => field.Column.Name)]
        );
        return new WantedChange(page.Changes, page.Name, ChangeKind.Added, write, null, token, visit.Request.Sent.Digest);
    }

    /// <param name="isForm">A person sent it, and is redirected.</param>
    private Answer Saved(MadeChange made, bool isForm)
    {
        visit.Trace.Why = "The record was made.";
        return isForm
            ? SaveSteps.Led(
                new Outcome.Saved(),
                made.Location,
                made.IsVisible ? $"Added: {made.Label}." : $"Added: {made.Label}. It is not shown in this app."
            )
            : new Answer(
                new Outcome.Saved(),
                201,
                new SavedView(visit.Site.Frame, page.Name, made.Id, made.Location),
                made.Location
            );
    }

    /// <param name="contract">The contract that goes on; null for a new form.</param>
    private async ValueTask<Answer> FormAsync(Outcome outcome, int status, string? notice, FormContract? contract)
    {
        var inputs = await forms.InputsAsync(visit, draft, null);
        if (visit.Request.Reader == Reader.Person)
            contract = contract is null ? NewContract() : contract with { Visitor = visit.Visitor };
        var cancel = (page.Cancel ?? address.Back) is { } way ? way with { Text = "Do not add it" } : null;
        var view = new FormView(
            visit.Site.Frame,
            page.Name,
            outcome.PublicWord,
            status,
            page.Title,
            address.On(page),
            contract?.Seal(saving.Seal) ?? "",
            notice,
            inputs,
            draft.FaultsIn(inputs),
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

    private FormContract NewContract() =>
        new(
            FormContract.NewToken(),
            page.Name,
            address.Ids,
            visit.Visitor,
            saving.Now,
            new Dictionary<string, TypedValue>(),
            "",
            []
        );
}
