using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Sources.Sqlite;
using Microsoft.Data.Sqlite;

namespace Jexa.Sources.Http;

/// <summary>
/// What was read from an API, in a SQLite file of Jexa's own, so that lists, filters, orders and labels work on it as on any
/// database. Nothing in it is older than its source allows.
/// </summary>
internal sealed class ApiStore : IAsyncDisposable
{
    private readonly StoreFolder _folder = new();
    private readonly SqliteConnection _connection;
    private readonly Lock _lock = new();

    public ApiStore(SourceSettings settings)
    {
        SqliteEngine.Prepare();
        var file = _folder.File("records.db");
        _connection = new SqliteConnection($"Data Source={file};Pooling=False");
        _connection.Open();
        Run("PRAGMA journal_mode = WAL; PRAGMA synchronous = OFF");
        Source = new SqliteEngine().Open(settings with { Connection = file, Writing = SourceWriting.Refused, Api = null });
    }

    public ISource Source { get; }

    /// <summary>Makes a table for records of this shape, empty, unless there is one.</summary>
    public void Shape(ApiShape shape, bool anew)
    {
        lock (_lock)
        {
            var table = Quoted(shape.Endpoint.Name);
            if (anew)
                Run($"DROP TABLE IF EXISTS {table}");
            var columns = shape.Columns.Select(column =>
                $"{Quoted(column.Name)} {(column.Type == FieldType.Any ? "" : column.Type.Word().ToUpperInvariant())}"
            );
            Run($"CREATE TABLE IF NOT EXISTS {table} ({string.Join(", ", columns)})");
            if (shape.HasKey)
                Run(
                    $"CREATE INDEX IF NOT EXISTS {Quoted(shape.Endpoint.Name + "\u0001key")} ON {table} "
                        + $"({string.Join(", ", shape.Endpoint.Key.Select(Quoted))})"
                );
        }
    }

    /// <summary>Puts records in the place of those that have this key, or of all.</summary>
    public void Replace(ApiShape shape, IReadOnlyList<string>? key, IReadOnlyList<ApiRecord> records)
    {
        lock (_lock)
        {
            using var transaction = _connection.BeginTransaction();
            using (var delete = Command(transaction))
            {
                var isKey = string.Join(" AND ", shape.Endpoint.Key.Select((column, i) => $"{Quoted(column)} = @{i}"));
                delete.CommandText = $"DELETE FROM {Quoted(shape.Endpoint.Name)}{(key is null ? "" : $" WHERE {isKey}")}";
                for (var i = 0; i < (key?.Count ?? 0); i++)
                    delete.Parameters.AddWithValue($"@{i}", key![i]);
                delete.ExecuteNonQuery();
            }

            using var insert = Command(transaction);
            insert.CommandText =
                $"INSERT INTO {Quoted(shape.Endpoint.Name)} VALUES "
                + $"({string.Join(", ", shape.Columns.Select((_, i) => $"@{i}"))})";
            var values = shape
                .Columns.Select((_, i) => insert.Parameters.Add(new SqliteParameter { ParameterName = $"@{i}" }))
                .ToArray();
            foreach (var record in records)
            {
                for (var i = 0; i < values.Length; i++)
                    values[i].Value = record.Kept(shape.Columns[i].Name, shape.Columns[i].Type) ?? DBNull.Value;
                insert.ExecuteNonQuery();
            }

            transaction.Commit();
        }
    }

    public async ValueTask DisposeAsync()
    {
        await Source.DisposeAsync();
        await _connection.DisposeAsync();
        _folder.Dispose();
    }

    private SqliteCommand Command(SqliteTransaction transaction)
    {
        var command = _connection.CreateCommand();
        command.Transaction = transaction;
        return command;
    }

    private void Run(string sql)
    {
        using var command = _connection.CreateCommand();
        command.CommandText = sql;
        command.ExecuteNonQuery();
    }

    private static string Quoted(string name) => "\"" + name.Replace("\"", "\"\"") + "\"";
}
