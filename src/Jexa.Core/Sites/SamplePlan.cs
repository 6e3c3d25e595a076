using Jexa.Core.Plans;
using Jexa.Core.Sources;

namespace Jexa.Core.Sites;

/// <summary>Reads what fills the parameters of a page from some visible records.</summary>
/// <param name="Ordinals">Where each parameter's value stands in a row; -1 for one that is left out.</param>
public sealed record SamplePlan(IPreparedQuery Query, IReadOnlyList<int> Ordinals)
{
    /// <summary>The samples for a page; null if a parameter it needs stands for no field.</summary>
    internal static SamplePlan? Of(PageHead head, IEnumerable<Condition> where, Projections load)
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
            Visits.Samples.MostRows
        );
        return new SamplePlan(head.Record.Source.Prepare(query), ordinals);
    }

    /// <summary>In the order of the key: which rows come first must not hang on rows that may not be seen.</summary>
    internal static List<Ordering> ByKey(SiteRecord record) =>
        record.Query is null
            ? [.. record.Key.Select(field => new Ordering.ByColumn(ColumnRef.Own(field.Column.Name), false, null))]
            : [];
}
