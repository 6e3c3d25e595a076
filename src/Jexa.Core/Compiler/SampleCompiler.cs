using Jexa.Core.Plans;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>Compiles the samples of a page.</summary>
internal static class SampleCompiler
{
    /// <summary>The samples for a page; null if a required parameter means no field.</summary>
    public static SamplePlan? Compile(PageHead head, IEnumerable<Condition> where, Projections load)
    {
        if (
            head.Parameters.Any(parameter =>
                parameter.Required && head.Record.Find(parameter.Field.Name) is null && parameter.Path is null
            )
        )
            return null;
        var ordinals = head
            .Parameters.Select(parameter => parameter.Required ? load.Add(parameter.Path ?? FieldPath.Own(parameter.Field)) : -1)
            .ToList();
        var filled = ordinals
            .Where(ordinal => ordinal >= 0)
            .Select(ordinal => (Condition)new Condition.IsFilled(load.Columns[ordinal].Column));
        var query = new RecordQuery(
            head.Record.Seen,
            load.Joins,
            load.Columns,
            [.. where, .. filled],
            null,
            ByKey(head.Record),
            SamplePlan.MostRows
        );
        return new SamplePlan(head.Record.Source.Prepare(query), ordinals);
    }

    /// <summary>In the order of the key, so that the first rows do not depend on rows that may not be seen.</summary>
    public static List<Ordering> ByKey(SiteRecord record) =>
        record.Query is null
            ? [.. record.Key.Select(field => new Ordering.ByColumn(ColumnRef.Own(field.Column.Name), false, null))]
            : [];
}
