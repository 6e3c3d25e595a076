using Jexa.Core.Sites;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>Compiles the trail of a record: its parent, the parent's parent, and so on.</summary>
internal sealed class TrailCompiler(RecordGraph graph, LinkCompiler links)
{
    /// <summary>The most records in a trail: parents can form a circle.</summary>
    private const int MaxSteps = 6;

    /// <summary>The trail above the records of a query.</summary>
    /// <param name="table">The table where the trail begins.</param>
    /// <param name="itself">Whether the trail ends with the record itself.</param>
    public TrailPlan Above(SiteRecord record, int table, Projections load, bool itself)
    {
        var steps = new List<TrailStep>();
        if (itself)
            steps.Add(
                new TrailStep(
                    load.Label(record, table),
                    load.Add(new Plans.ColumnRef(table, record.Key[0].Column.Name), record.Key[0].Type),
                    links.To(record, table, load)
                )
            );
        var top = record;
        var seen = new HashSet<SiteRecord> { record };
        while (
            top.Parent is { } key && seen.Count <= MaxSteps && graph.Steps(top).FirstOrDefault(step => step.Key == key) is { } up
        )
        {
            table = load.Join(table, up);
            steps.Insert(
                0,
                new TrailStep(
                    load.Label(up.Other, table),
                    LinkCompiler.Presence(up, table, load),
                    links.To(up.Other, table, load)
                )
            );
            top = up.Other;

            // A record may belong to another one of its kind. One such level is shown.
            if (!seen.Add(top))
                break;
        }

        if (steps.Count == 0)
            return TrailPlan.None;
        var list = ListOf(top);
        return new TrailPlan(list is null ? null : new PlainLink(list.Name, list.Heading, list.OpenAddress!), steps);
    }

    /// <summary>The list of a record kind that needs no parameter; the simplest first.</summary>
    public PageHead? ListOf(SiteRecord record) =>
        links
            .PagesOf(record)
            .Where(page => page.Definition.Kind == Definitions.PageKind.List && page.AddressWithoutParameters is not null)
            .OrderBy(page => page.Definition.Where.Count > 0 && page.Parameters.Count == 0)
            .FirstOrDefault();
}
