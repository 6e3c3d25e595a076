using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Core.Changes;

/// <summary>Visits a page that makes a record: reads its address, and leaves form and save to <see cref="NewCase"/>.</summary>
internal sealed class NewVisit(FormMaker forms, SaveSteps saving)
{
    public async ValueTask<Answer> RunAsync(Visit visit, NewPage page)
    {
        var request = visit.Request;
        var address = Read(visit, page);
        if (address.Refused is { } refused)
            return refused;
        var draft =
            request.IsSafe ? new Draft(page.Form)
            : request.Sent.Json is { } json ? Draft.OfJson(page.Form, json, request.Sent.Files)
            : Draft.OfForm(page.Form, request.Sent);
        foreach (var parent in page.Parents)
            if (await FixAsync(visit, page, parent, address, draft) is { } unknown)
                return unknown;
        FixOthers(page, address, draft);
        var fresh = new NewCase(visit, page, address, draft, forms, saving);
        return request.IsSafe ? await fresh.ShowAsync()
            : request.Sent.Json is null ? await fresh.PostAsync()
            : await fresh.PostJsonAsync();
    }

    private static NewAddress Read(Visit visit, NewPage page)
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
            refused = new Answer(new Outcome.NotCanonical(), 301, null, new NewAddress(texts, values, null).On(page));
        }

        return new NewAddress(texts, values, refused);
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

    /// <summary>A record that the address names must exist. It then decides its field of the new record.</summary>
    /// <returns>The answer if it does not exist; null if it exists, or is not named.</returns>
    private async ValueTask<Answer?> FixAsync(Visit visit, NewPage page, ParentPlan parent, NewAddress address, Draft draft)
    {
        if (parent.Parameters.Any(number => address.Values[number] is null))
            return null;
        var keys = parent.Parameters.Select(number => address.Values[number]!).ToArray();
        var rows = visit.Rows.Lend(parent.Lookup.Load.Width);
        await saving.Plainly(visit)(parent.Lookup.Load, keys, rows);
        visit.Trace.End(VisitStep.Load);
        var decision = Loading.Decide(parent.Lookup, rows, keys);
        if (decision.Outcome is not Outcome.Found)
            return NotThere(visit, page, parent, address, decision, rows);
        var row = rows[decision.Row];
        using var label = new Utf8Buffer(64);
        parent.Label.Write(row, label);
        using var own = new Utf8Buffer(64);
        if (parent.Trail.Steps is [.., { Link: { } link }] && link.TryWrite(row, own))
            address.Back = new PlainLink(link.Page, label.ToString(), own.ToString());
        if (parent.Parameters.Count == 1 && page.Form.Find(page.Parameters[parent.Parameters[0]].Field.Name) is { } entry)
            draft.Fixed[entry.Name] = label.ToString();
        return null;
    }

    private static Answer NotThere(
        Visit visit,
        NewPage page,
        ParentPlan parent,
        NewAddress address,
        LoadDecision decision,
        RowBlock rows
    )
    {
        visit.Trace.Why = $"The {parent.Record.One} that the address names: {decision.Why}";
        if (decision.Outcome is Outcome.NotCanonical && visit.Request.IsSafe)
        {
            var exact = Loading.KeyOf(parent.Lookup, rows[decision.Row]);
            for (var i = 0; i < exact.Length; i++)
                address.Texts[parent.Parameters[i]] = parent.Lookup.Keys[i].Write(exact[i]);
            return new Answer(decision.Outcome, 301, null, address.On(page));
        }

        return Answer.Of(
            decision.Outcome is Outcome.NotCanonical ? new Outcome.Unknown() : decision.Outcome,
            Messages.UnknownParentOfNew(visit.Site, page, parent, address.Texts, decision.Outcome is Outcome.Ambiguous)
        );
    }

    /// <summary>Other values that the address gives decide their fields as well.</summary>
    private static void FixOthers(NewPage page, NewAddress address, Draft draft)
    {
        for (var i = 0; i < address.Texts.Length; i++)
        {
            if (address.Texts[i] is not { } text || page.Form.Find(page.Parameters[i].Field.Name) is not { } entry)
                continue;
            draft.Fixed.TryAdd(entry.Name, text);
            draft.Set(entry.Name, text);
        }
    }
}
