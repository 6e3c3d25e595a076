using Jexa.Core.Edits;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Core.Changes;

/// <summary>Shows the form of a page that changes a record.</summary>
internal sealed class EditForm(Visit visit, EditPage page, FormMaker forms, SaveSteps saving)
{
    private const string Button = "Save";

    /// <param name="contract">
    /// The contract of a form that is shown again: it is still made from the original values. Null for the present record.
    /// </param>
    public async ValueTask<Answer> ShowAsync(
        FoundRecord found,
        Draft draft,
        Outcome outcome,
        int status,
        string? notice,
        FormContract? contract
    )
    {
        var row = found.Row;
        var isForPrograms = visit.Request.Reader == Reader.Program;
        var inputs = isForPrograms && !draft.HasFaults ? [] : await forms.InputsAsync(visit, draft, row);
        var version = VersionOf(row);
        if (!isForPrograms)
            contract = contract is null
                ? NewContract(found, draft, version)
                : contract with
                {
                    Visitor = visit.Visitor,
                    Ids = RecordFinder.TextsOf(page, found.Keys),
                };
        using var heading = new Utf8Buffer(128);
        page.Title.Write(row, heading);
        var view = new FormView(
            visit.Site.Frame,
            page.Name,
            outcome.PublicWord,
            status,
            heading.ToString(),
            RecordFinder.AddressOf(page, found.Keys) ?? "",
            contract?.Seal(saving.Seal) ?? "",
            notice,
            inputs,
            draft.FaultsIn(inputs),
            Button,
            Cancel(row),
            Links(row),
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

    /// <summary>A contract for a form that is made from the present record.</summary>
    private FormContract NewContract(FoundRecord found, Draft draft, string version)
    {
        var token = FormContract.NewToken();
        var values = page.Form.Entries.ToDictionary(entry => entry.Name, entry => EditComparison.BaseOf(entry, found.Row, token));
        foreach (var kept in page.Changes.Kept.Where(kept => kept.Kind == KeptKind.Version))
            values[kept.Field.Name] = StoredValue.Of(found.Row, page.OrdinalOf(kept.Field));
        return new FormContract(
            token,
            page.Name,
            RecordFinder.TextsOf(page, found.Keys),
            visit.Visitor,
            saving.Now,
            values,
            version,
            [.. draft.Undecided.Keys]
        );
    }

    private PlainLink? Cancel(Row row)
    {
        using var address = new Utf8Buffer(128);
        return page.Cancel?.TryWrite(row, address) == true ? new PlainLink(page.Cancel.Page, "Do not save", address.ToString())
            : page.Back is { } list ? list with { Text = "Do not save" }
            : null;
    }

    private List<PlainLink> Links(Row row)
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

    /// <summary>A form with other fields is another representation, with other versions.</summary>
    public string VersionOf(Row row) =>
        RecordVersion.Of(
            row,
            page.Columns,
            $"{page.Name}:{string.Join(',', page.Form.Entries.Select(entry => entry.Name))}",
            saving.VersionKey
        );
}
