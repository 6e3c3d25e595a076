using Jexa.Core.Sites;
using Jexa.Core.Visits;

namespace Jexa.Core.Changes;

/// <summary>Visits a page that changes one record: shows its form, or makes the change that was sent.</summary>
internal sealed class EditVisit(RecordFinder finder, FormMaker forms, SaveSteps saving)
{
    public async ValueTask<Answer> RunAsync(Visit visit, EditPage page)
    {
        var request = visit.Request;
        var found = await finder.FindAsync(visit, page);
        var edit = new EditCase(visit, page, forms, saving);
        if (found.Refused is { } refused)
            return request.IsSafe || request.Sent.Json is not null ? refused : await edit.TypedAsync(refused);
        return request.IsSafe ? await edit.ShowAsync(found)
            : request.Method == "PATCH" ? await edit.PatchAsync(found)
            : await edit.PostAsync(found);
    }
}
