using Jexa.Core.Sites;
using Jexa.Core.Visits;

namespace Jexa.Core.Changes;

/// <summary>Leads visits of pages that change records to those who know each kind.</summary>
internal sealed class ChangeVisits
{
    private readonly QueryRunner _queries;
    private readonly EditVisit _edits;
    private readonly NewVisit _news;
    private readonly DeleteVisit _deletes;

    public ChangeVisits(QueryRunner queries, RecordFinder finder, EditServices editing)
    {
        _queries = queries;
        var saving = new SaveSteps(queries, editing, new ChangeMaker(queries, editing.Log));
        var forms = new FormMaker(queries);
        _edits = new EditVisit(finder, forms, saving);
        _news = new NewVisit(forms, saving);
        _deletes = new DeleteVisit(queries, finder, saving);
    }

    /// <param name="asked">The page's head under the path that was asked for: its own, or a former one.</param>
    public async ValueTask<Answer> RunAsync(
        Site site,
        Page page,
        PageHead asked,
        VisitRequest request,
        VisitTrace trace,
        CancellationToken cancellation
    )
    {
        var loans = _queries.Begin();
        try
        {
            var context = new ChangeContext(site, request, trace, loans, cancellation);
            var answer = page switch
            {
                EditPage edit => await _edits.RunAsync(context, edit, asked),
                NewPage fresh => await _news.RunAsync(context, fresh, asked),
                _ => await _deletes.RunAsync(context, (DeletePage)page, asked),
            };
            trace.End(VisitStep.Decide);
            answer = answer with { Rows = loans };
            loans = null;
            return answer;
        }
        finally
        {
            loans?.Dispose();
        }
    }
}
