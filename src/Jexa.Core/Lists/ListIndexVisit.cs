using System.Runtime.CompilerServices;
using Jexa.Core.Sites;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;
using Jexa.Core.Visits;

namespace Jexa.Core.Lists;

/// <summary>
/// Lists the lists of an app with the number of records in each. Counts are kept for a minute. A visit counts for a limited time;
/// the next one continues.
/// </summary>
internal sealed class ListIndexVisit(QueryRunner queries)
{
    private static readonly TimeSpan KeptFor = TimeSpan.FromMinutes(1);

    /// <summary>For how long one visit counts.</summary>
    private static readonly TimeSpan Most = TimeSpan.FromMilliseconds(500);

    private readonly PartBudget _budget = new(queries);

    /// <summary>The last count, and its time.</summary>
    private readonly ConditionalWeakTable<ListPage, StrongBox<(Total Total, long At)>> _counted = [];

    /// <param name="find">Words that must stand in a list's name; empty for all lists.</param>
    public async ValueTask<IReadOnlyList<ListGroup>> RunAsync(Visit visit, TextPage page, string find)
    {
        var words = find.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        var started = queries.Clock.GetTimestamp();
        var away = new HashSet<string>();
        var rows = visit.Rows.Lend(1);
        var groups = new List<ListGroup>();
        foreach (var (title, lists) in page.Lists)
        {
            var shown = new List<ListEntry>();
            foreach (
                var list in lists.Where(list =>
                    words.All(word => list.Head.Heading.Contains(word, StringComparison.OrdinalIgnoreCase))
                )
            )
            {
                var total =
                    _counted.TryGetValue(list, out var kept) && queries.Clock.GetElapsedTime(kept.Value.At) < KeptFor
                        ? kept.Value.Total
                    : queries.Clock.GetElapsedTime(started) < Most && !away.Contains(list.Record!.SourceName)
                        ? await CountAsync(visit, list, rows, away)
                    : null;
                shown.Add(new ListEntry(new PlainLink(list.Name, list.Head.Heading, list.Head.OpenAddress!), total));
            }

            if (shown.Count > 0)
                groups.Add(new ListGroup(title, shown));
        }

        return groups;
    }

    private async ValueTask<Total?> CountAsync(Visit visit, ListPage list, RowBlock rows, HashSet<string> away)
    {
        try
        {
            rows.Reset(1);
            var query = list.Plan.For(new ListRequest(ParameterValues.NoneOf(list.Parameters.Count), [], null, list.Size));
            if (!await _budget.RunAsync(list.Record!, new WindowQuery(query.Count, query.Arguments), rows, visit))
                return null;
            var total = Total.Of(rows[0][0].Integer, list.Plan.CountLimit);
            _counted.AddOrUpdate(list, new StrongBox<(Total, long)>((total, queries.Clock.GetTimestamp())));
            return total;
        }
        catch (SourceException)
        {
            // A list that cannot be counted is shown without a number. Its own page says what is wrong.
            away.Add(list.Record!.SourceName);
            return null;
        }
    }
}
