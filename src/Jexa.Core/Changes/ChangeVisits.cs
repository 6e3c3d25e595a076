using System.Diagnostics;
using Jexa.Core.Sites;
using Jexa.Core.Visits;

namespace Jexa.Core.Changes;

/// <summary>Passes visits of pages that change records to the class of the page's kind.</summary>
internal sealed class ChangeVisits
{
    private readonly EditVisit _edits;
    private readonly NewVisit _news;
    private readonly DeleteVisit _deletes;

    public ChangeVisits(QueryRunner queries, RecordFinder finder, EditServices editing)
    {
        var saving = new SaveSteps(queries, editing, new ChangeMaker(queries, editing.Log));
        var forms = new FormMaker(queries);
        _edits = new EditVisit(finder, forms, saving);
        _news = new NewVisit(forms, saving);
        _deletes = new DeleteVisit(queries, finder, saving);
    }

    public async ValueTask<Answer> RunAsync(Visit visit, Page page)
    {
        var answer = page switch
        {
            EditPage edit => await _edits.RunAsync(visit, edit),
            NewPage fresh => await _news.RunAsync(visit, fresh),
            DeletePage delete => await _deletes.RunAsync(visit, delete),
            _ => throw new UnreachableException($"A page of kind {page.Kind} changes nothing."),
        };
        visit.Trace.End(VisitStep.Decide);
        return answer;
    }
}
