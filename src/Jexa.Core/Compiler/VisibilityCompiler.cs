using Jexa.Core.Plans;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>
/// Works out what hidden records mean for records that refer to them, when all record kinds are known. <list type="bullet">
/// <item>A record whose key contains the key of another is a part of it: it may be seen only if the other may.</item> <item> Any
/// other foreign key to a record that may not be seen counts as empty wherever it is shown, compared, ordered or listed: the
/// field is read from the record that it refers to, and hidden records are not joined. </item> </list>
/// </summary>
internal static class VisibilityCompiler
{
    /// <summary>
    /// The same record kinds, with the conditions that hide them and the foreign keys that withhold their fields.
    /// </summary>
    public static IReadOnlyList<SiteRecord> Complete(IReadOnlyList<SiteRecord> kinds)
    {
        var graph = new RecordGraph(kinds);
        var visible = new Dictionary<string, IReadOnlyList<Condition>>();
        var complete = kinds
            .Select(kind => kind with { Visible = VisibleOf(kind, graph, visible, []), WithheldBy = [], LabelPaths = [] })
            .ToList();
        graph = new RecordGraph(complete);
        foreach (var kind in complete)
        {
            foreach (
                var step in graph
                    .Steps(kind)
                    .Where(step => step.Other.Visible.Count > 0 && !IsPart(kind, step))
                    .OrderBy(step => step.Key.Columns.Count)
            )
            foreach (var column in step.Key.Columns)
                kind.WithheldBy[column] = step;
        }

        return complete;
    }

    /// <summary>Whether a foreign key is within the record's own key.</summary>
    private static bool IsPart(SiteRecord kind, FieldStep step) =>
        step.Key.Columns.All(column => kind.Key.Any(field => field.Column.Name == column)) && step.Key.Table != kind.Table.Name;

    /// <param name="above">Kinds that are being worked out: tables can refer to each other in a circle.</param>
    private static IReadOnlyList<Condition> VisibleOf(
        SiteRecord kind,
        RecordGraph graph,
        Dictionary<string, IReadOnlyList<Condition>> known,
        IReadOnlyList<string> above
    )
    {
        if (known.TryGetValue(kind.Name, out var visible))
            return visible;
        var all = new List<Condition>(kind.Visible);
        foreach (var step in graph.Steps(kind).Where(step => IsPart(kind, step) && !above.Contains(step.Other.Name)))
        {
            if (VisibleOf(step.Other, graph, known, [.. above, kind.Name]) is not { Count: > 0 } whole)
                continue;
            var empties = step.Key.Columns.Select(column => (Condition)new Condition.IsEmpty(ColumnRef.Own(column)));
            var on = step.Key.Columns.Zip(step.Key.References, (own, theirs) => (ColumnRef.Own(own), theirs)).ToList();
            all.Add(new Condition.Any([.. empties, new Condition.Exists(RecordRows.Seen(step.Other.Rows, whole), on)]));
        }

        if (above.Count == 0)
            known[kind.Name] = all;
        return all;
    }
}
