using Jexa.Core.Plans;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>Compiles what a sweep reads of a page: all rows of a part of it, with their links.</summary>
internal static class RowSets
{
    /// <summary>The most rows that a query for people finds.</summary>
    public const int MostShown = 1000;

    /// <summary>The rows; none if nobody knows what the parameters of the record's own query are.</summary>
    /// <param name="part">The name of the block; empty for the page itself.</param>
    /// <param name="where">The conditions that hold for all rows, whatever the address says.</param>
    public static IReadOnlyList<RowSet> Of(
        string part,
        Projections load,
        IReadOnlyList<Filter> where,
        int parameters,
        IReadOnlyList<ViewColumn> columns,
        IEnumerable<LinkPlan?> links
    )
    {
        var record = load.Record;
        if (!record.Table.CanList || record.QueryParameters.Any(parameter => parameter.Default is null))
            return [];
        var arguments = new ArgumentList();
        var conditions = Filter.Standing(where, arguments, parameters);
        var cells = load.Columns.ToList();
        var key = record.Key.Select(field => KeyOf(field, cells)).ToList();
        return
        [
            new RowSet(
                part,
                record,
                new RecordQuery(record.Seen, load.Joins, cells, conditions, null, [], int.MaxValue),
                arguments.Values,
                key,
                columns,
                [.. links.OfType<LinkPlan>().Concat(Shown(columns)).Where(link => link.Fillers.Count > 0).Distinct()]
            ),
        ];
    }

    /// <summary>The links on columns, and those to the records that columns refer to.</summary>
    private static IEnumerable<LinkPlan> Shown(IReadOnlyList<ViewColumn> columns) =>
        columns.SelectMany(column => new[] { column.Link, column.Reference?.Link }).OfType<LinkPlan>();

    /// <summary>The key's column as it is stored, so that a row with a wrong value is a place like any other.</summary>
    private static OrderKey KeyOf(SiteField field, List<Projection> cells)
    {
        var stored = field.Type is FieldType.Integer or FieldType.Text or FieldType.Real or FieldType.Bytes
            ? field.Type
            : FieldType.Any;
        var projection = new Projection(ColumnRef.Own(field.Column.Name), stored);
        if (!cells.Contains(projection))
            cells.Add(projection);
        return new OrderKey(projection.Column, false, field.Column.Nullable, cells.IndexOf(projection));
    }
}
