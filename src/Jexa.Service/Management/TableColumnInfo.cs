using Jexa.Core.Schemas;
using Jexa.Core.Values;

namespace Jexa.Service.Management;

/// <summary>A column of a table.</summary>
/// <param name="Type">Its type as Jexa reads it.</param>
/// <param name="Declared">Its type as the source writes it.</param>
/// <param name="Key">Whether it is of the primary key.</param>
/// <param name="RefersTo">The table that a foreign key with this column refers to; null for none.</param>
public sealed record TableColumnInfo(string Name, string Type, string Declared, bool Key, bool Nullable, string? RefersTo)
{
    internal static TableColumnInfo Of(ColumnSchema column, TableSchema table) =>
        new(
            column.Name,
            column.Type.Word(),
            column.DeclaredType,
            table.PrimaryKey.Contains(column.Name),
            column.Nullable,
            table.ForeignKeys.FirstOrDefault(key => key.Columns.Contains(column.Name))?.Table
        );
}
