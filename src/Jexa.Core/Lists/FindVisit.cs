using Jexa.Core.Addresses;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Core.Lists;

/// <summary>Searches several lists for the same words: the first records of each, and how many there are.</summary>
internal sealed class FindVisit(QueryRunner queries)
{
    /// <summary>The records shown of each list.</summary>
    private const int Most = 5;

    /// <summary>The longest search text.</summary>
    public const int MaxFind = 200;

    private readonly PartBudget _budget = new(queries);

    public async ValueTask<FoundView> RunAsync(Visit visit, TextPage page)
    {
        var raw = ParameterReader.FromQuery(visit.Target.Query, ParameterReader.Find).Text;
        var find = raw?.Trim() ?? "";
        var action = visit.Target.Raw.Split('?')[0];
        var words = ListReader.WordsOf(find);
        var fault =
            find.Contains('\0') ? "These are no words."
            : find.Length > MaxFind || words.Count > ListPlan.MaxWords ? $"Write no more than {ListPlan.MaxWords} words."
            : null;
        var found = new List<FoundList>();
        if (fault is null && words.Count > 0)
            foreach (var list in page.Searched)
                if (await FindAsync(visit, list, words, find) is { } some)
                    found.Add(some);
        return new FoundView(action, find.Replace("\0", ""), fault, found);
    }

    /// <summary>What is found in one list; null for nothing.</summary>
    private async ValueTask<FoundList?> FindAsync(Visit visit, ListPage list, List<string> words, string find)
    {
        var all = new PlainLink(
            list.Name,
            list.Head.Heading,
            AddressQuery.With(list.Head.OpenAddress!, ParameterReader.Find, find)
        );
        try
        {
            var query = list.Plan.For(new ListRequest(ParameterValues.NoneOf(list.Parameters.Count), words, null, Most));
            var rows = visit.Rows.Lend(query.Windows.Width);
            foreach (var part in query.Windows.End(query.Arguments, backwards: false))
                if (rows.Count <= Most)
                    await queries.RunAsync(part.Query, part.Arguments, rows, visit);
            if (rows.Count == 0)
                return null;
            if (rows.Count <= Most)
                return new FoundList(all, list.Shape, rows, new Total(rows.Count, true));
            while (rows.Count > Most)
                rows.DropLastRow();
            var counted = visit.Rows.Lend(1);
            var isCounted = await _budget.RunAsync(list.Record!, new WindowQuery(query.Count, query.Arguments), counted, visit);
            return new FoundList(all, list.Shape, rows, isCounted ? Total.Of(counted[0][0].Integer, list.Plan.CountLimit) : null);
        }
        catch (SourceException trouble)
        {
            visit.Trace.Why = $"The list “{list.Name}” could not be searched: {trouble.Message}";
            return new FoundList(all, list.Shape, null, null);
        }
    }
}
