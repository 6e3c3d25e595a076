using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Sites;

namespace Jexa.Core.Compiler;

/// <summary>Compiles the query for one record by its address.</summary>
internal static class Lookups
{
    /// <param name="keys">How each part of the key is read and compared.</param>
    /// <param name="ordinals">The cells with the parts of the key.</param>
    /// <param name="fields">The fields that the parts are compared with.</param>
    /// <param name="visible">Conditions for a record that may be seen.</param>
    /// <param name="valueOf">The values for parameters of the record's query; null for the defaults.</param>
    public static RecordLookup Compile(
        SiteRecord record,
        Projections load,
        IReadOnlyList<KeyType> keys,
        IReadOnlyList<int> ordinals,
        IReadOnlyList<FieldPath> fields,
        IReadOnlyList<Condition> visible,
        Func<string, Operand?>? valueOf = null
    )
    {
        var columns = fields.Select(load.Ref).ToList();
        var where = columns
            .Select((column, i) => (Condition)new Condition.Equal(column, new Operand.Argument(i, keys[i].Type)))
            .ToList();
        var flag = visible.Count > 0 ? visible : null;
        var query = new RecordQuery(
            RecordRows.Whole(record.RowsOf(valueOf ?? (_ => null))),
            load.Joins,
            load.Columns,
            where,
            flag,
            Preference(record, keys, fields, columns, flag is not null),
            2
        );
        return new RecordLookup(record.Source.Prepare(query), keys, ordinals, flag is null ? -1 : load.Columns.Count);
    }

    /// <summary>
    /// Which rows to read if there are several. Not needed if the source keeps the ID unique, except for UUIDs: even a unique
    /// column can hold one in several spellings.
    /// </summary>
    private static List<Ordering> Preference(
        SiteRecord record,
        IReadOnlyList<KeyType> keys,
        IReadOnlyList<FieldPath> fields,
        List<ColumnRef> columns,
        bool flagged
    )
    {
        if (
            !keys.Any(key => key is UuidKey)
            && record.Table.IsUnique([.. fields.Where(path => path.IsOwn).Select(path => path.Field.Column.Name)])
        )
            return [];
        var order = new List<Ordering>();
        if (flagged)
            order.Add(new Ordering.FlaggedFirst());
        for (var i = 0; i < keys.Count; i++)
            if (keys[i] is TextKey { FoldsCase: true })
                order.Add(new Ordering.ExactFirst(columns[i], i));
        return order;
    }
}
