using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>Compiles the query for one record by its address.</summary>
internal static class Lookups
{
    /// <param name="parts">The parts of the ID.</param>
    /// <param name="visible">Conditions for a record that may be seen.</param>
    /// <param name="valueOf">The values for parameters of the record's query; null for the defaults.</param>
    public static RecordLookup Compile(
        SiteRecord record,
        Projections load,
        IReadOnlyList<LookupPart> parts,
        IReadOnlyList<Condition> visible,
        Func<string, Operand?>? valueOf = null
    )
    {
        var columns = parts.Select(part => load.Ref(part.Field)).ToList();
        var where = columns
            .Select((column, i) => (Condition)new Condition.Equal(column, new Operand.Argument(i, parts[i].Key.Type)))
            .ToList();
        var flag = visible.Count > 0 ? visible : null;
        var query = new RecordQuery(
            RecordRows.Whole(record.RowsOf(valueOf ?? (_ => null))),
            load.Joins,
            load.Columns,
            where,
            flag,
            Preference(record, parts, columns, flag is not null),
            2
        );
        return new RecordLookup(
            record.Source.Prepare(query),
            [.. parts.Select(part => part.Key)],
            [.. parts.Select(part => part.Ordinal)],
            flag is null ? -1 : load.Columns.Count
        )
        {
            Source = record.Source,
            Query = query,
        };
    }

    /// <summary>
    /// Which rows to read if there are several. Not needed if the source keeps the ID unique, except for UUIDs: even a unique
    /// column can hold one in several spellings.
    /// </summary>
    private static List<Ordering> Preference(
        SiteRecord record,
        IReadOnlyList<LookupPart> parts,
        List<ColumnRef> columns,
        bool flagged
    )
    {
        if (
            parts.All(part => part.Key is not UuidKey)
            && record.Table.IsUnique([.. parts.Where(part => part.Field.IsOwn).Select(part => part.Field.Field.Column.Name)])
        )
            return [];
        var order = new List<Ordering>();
        if (flagged)
            order.Add(new Ordering.FlaggedFirst());
        for (var i = 0; i < parts.Count; i++)
            if (parts[i].Key is TextKey { FoldsCase: true })
                order.Add(new Ordering.ExactFirst(columns[i], i));
        return order;
    }
}
