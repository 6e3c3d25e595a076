using Jexa.Core.Values;
using Microsoft.Data.Sqlite;

namespace Jexa.Sources.Stores;

/// <summary>The SQL that writes records into a store.</summary>
internal static class StoreSql
{
    public static string Quoted(string name) => "\"" + name.Replace("\"", "\"\"") + "\"";

    /// <summary>The type of a column in a table definition; empty for any type.</summary>
    public static string Declared(FieldType type) => type == FieldType.Any ? "" : type.Word().ToUpperInvariant();

    /// <summary>
    /// Tables and indexes share their names. Names of tables have no control characters, so names of indexes get one.
    /// </summary>
    public static string IndexName(string table, string which) => $"{table}\u0001{which}";

    public static void Run(this SqliteConnection connection, string sql)
    {
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        command.ExecuteNonQuery();
    }

    /// <summary>The whole number that a query returns.</summary>
    public static long Ask(this SqliteConnection connection, string sql)
    {
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        return (long)command.ExecuteScalar()!;
    }

    /// <summary>Inserts rows into a table.</summary>
    /// <param name="rows">Each has a value for every column. The same array may come again with other values.</param>
    public static void Insert(
        this SqliteConnection connection,
        SqliteTransaction within,
        string table,
        IEnumerable<object?[]> rows
    )
    {
        using var insert = connection.CreateCommand();
        insert.Transaction = within;
        SqliteParameter[] parameters = [];
        foreach (var row in rows)
        {
            if (parameters.Length == 0)
            {
                insert.CommandText = $"INSERT INTO {Quoted(table)} VALUES ({string.Join(", ", row.Select((_, i) => $"@{i}"))})";
                parameters = [.. row.Select((_, i) => insert.Parameters.Add(new SqliteParameter { ParameterName = $"@{i}" }))];
            }

            for (var i = 0; i < row.Length; i++)
                parameters[i].Value = row[i] ?? DBNull.Value;
            insert.ExecuteNonQuery();
        }
    }
}
