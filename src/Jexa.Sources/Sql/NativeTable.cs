using Jexa.Core.Schemas;

namespace Jexa.Sources.Sql;

/// <summary>The name of a table in SQL, and its columns.</summary>
internal sealed record NativeTable(string Sql, TableSchema Schema, IReadOnlyList<NativeColumn> Columns)
{
    public NativeColumn? Find(string name) => Columns.FirstOrDefault(column => column.Column.Name == name);
}
