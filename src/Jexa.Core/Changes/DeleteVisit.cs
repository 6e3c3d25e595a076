using Jexa.Core.Edits;
using Jexa.Core.Sites;
using Jexa.Core.Visits;

namespace Jexa.Core.Changes;

/// <summary>Visits a page that deletes one record: shows it and what refers to it, and deletes it after confirmation.</summary>
internal sealed class DeleteVisit(QueryRunner queries, RecordFinder finder, SaveSteps saving)
{
    public async ValueTask<Answer> RunAsync(Visit visit, DeletePage page)
    {
        var request = visit.Request;
        var found = await finder.FindAsync(visit, page);
        if (found.Refused is { } refused)
        {
            // If the form that deleted it is sent again, it leads to the same place.
            return
                request.Method == "POST"
                && refused.Outcome is Outcome.Gone or Outcome.Unknown
                && await SentBeforeAsync(visit, page, found) is { } again
                ? again
                : refused;
        }

        var delete = new DeleteCase(visit, page, found, queries, saving);
        return request.IsSafe ? await delete.ShowAsync()
            : request.Method == "DELETE" ? await delete.DeleteAsync()
            : await delete.PostAsync();
    }

    private async ValueTask<Answer?> SentBeforeAsync(Visit visit, DeletePage page, FoundRecord found) =>
        FormContract.Open(saving.Seal, visit.Request.Sent.One(SentForm.Contract) ?? "") is { } contract
        && contract.Page == page.Name
        && contract.Ids.SequenceEqual(found.TextsOn(page))
        && contract.Visitor == visit.Request.Visitor
        && await saving.FindAsync(contract.Token, awaitIt: true, visit.Cancellation) is { State: ChangeState.Made } made
            ? SaveSteps.Again(visit, made)
            : null;
}
