using Jexa.Core.Sources;
using Jexa.Sources.Stores;
using Microsoft.Data.Sqlite;
using static Jexa.Sources.Stores.StoreSql;

namespace Jexa.Sources.Http;

/// <summary>
/// What was read from an API, kept in a SQLite file of Jexa's own, so that lists, filters, orders and labels work as on any
/// database. Nothing in it is older than its source allows.
/// </summary>
internal sealed class ApiStore : IAsyncDisposable
{
    private readonly LocalStore _store;
    private readonly SqliteConnection _connection;
    private readonly Lock _lock = new();

    public ApiStore(SourceSettings settings)
    {
        _store = new LocalStore(settings);
        _connection = LocalStore.OpenWriting(_store.File, "WAL");
    }

    public ISource Source => _store.Source;

    /// <summary>Creates an empty table for such records, unless it exists.</summary>
    public void Shape(ApiShape shape, bool anew)
    {
        lock (_lock)
        {
            var table = Quoted(shape.Endpoint.Name);
            if (anew)
                _connection.Run($"DROP TABLE IF EXISTS {table}");
            var columns = shape.Columns.Select(column => $"{Quoted(column.Name)} {Declared(column.Type)}");
            _connection.Run($"CREATE TABLE IF NOT EXISTS {table} ({string.Join(", ", columns)})");
            if (shape.HasKey)
                _connection.Run(
                    $"CREATE INDEX IF NOT EXISTS {Quoted(IndexName(shape.Endpoint.Name, "key"))} ON {table} "
                        + $"({string.Join(", ", shape.Endpoint.Key.Select(Quoted))})"
                );
        }
    }

    /// <summary>Replaces the records with this key, or all of them.</summary>
    public void Replace(ApiShape shape, IReadOnlyList<string>? key, IReadOnlyList<ApiRecord> records)
    {
        lock (_lock)
        {
            using var transaction = _connection.BeginTransaction();
            using (var delete = _connection.CreateCommand())
            {
                delete.Transaction = transaction;
                var isKey = string.Join(" AND ", shape.Endpoint.Key.Select((column, i) => $"{Quoted(column)} = @{i}"));
                delete.CommandText = $"DELETE FROM {Quoted(shape.Endpoint.Name)}{(key is null ? "" : $" WHERE {isKey}")}";
                for (var i = 0; i < (key?.Count ?? 0); i++)
                    delete.Parameters.AddWithValue($"@{i}", key![i]);
                delete.ExecuteNonQuery();
            }

            _connection.Insert(transaction, shape.Endpoint.Name, records.Select(record => Row(shape, record)));
            transaction.Commit();
        }
    }

    public async ValueTask DisposeAsync()
    {
        await _connection.DisposeAsync();
        await _store.DisposeAsync();
    }

    private static object?[] Row(ApiShape shape, ApiRecord record) =>
        [.. shape.Columns.Select(column => record.Kept(column.Name, column.Type))];
}
