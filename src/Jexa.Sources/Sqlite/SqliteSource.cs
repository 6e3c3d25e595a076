using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Sources.Sqlite;

/// <summary>
/// One SQLite file, read through a fixed set of connections of its own that cannot write. The file is never created.
/// </summary>
internal sealed class SqliteSource : ISource
{
    private readonly SqlitePool _pool;

    public SqliteSource(SourceSettings settings)
    {
        var path = Path.GetFullPath(settings.Connection, Path.GetFullPath(settings.BaseFolder));
        _pool = new SqlitePool(path, settings.ShownAs, settings.TimeLimit);
    }

    public async ValueTask<SourceSchema> DescribeAsync(CancellationToken cancellation)
    {
        using var lease = await _pool.RentAsync(cancellation);
        return SqliteDescriber.Describe(lease.Connection);
    }

    public async ValueTask ProbeAsync(CancellationToken cancellation)
    {
        using var lease = await _pool.RentAsync(cancellation);
        lease.Connection.Ask("SELECT count(*) FROM sqlite_schema");
    }

    public IPreparedQuery Prepare(RecordQuery query) =>
        new SqliteQuery(_pool, SqliteText.Of(query), query.CellNames, [.. query.Columns.Select(column => column.Type)]);

    public IPreparedQuery Prepare(CountQuery query) => new SqliteQuery(_pool, SqliteText.Of(query), ["(count)"], [], isCount: true);

    public IPreparedQuery Prepare(GroupQuery query) => new SqliteQuery(_pool, SqliteText.Of(query),
        [.. query.Columns.Select(column => column.Column.Name), "(count)"],
        [.. query.Columns.Select(column => column.Column == query.By && query.Part != GroupPart.Whole ? FieldType.Integer : column.Type)]);

    public IPreparedQuery Prepare(CombinedQuery query)
    {
        var first = query.Searches[0][0];
        return new SqliteQuery(_pool, SqliteText.Of(query), [.. first.CellNames, "(search)"], [.. first.Columns.Select(column => column.Type)]);
    }

    public async ValueTask<QuerySchema> DescribeQueryAsync(string query, CancellationToken cancellation)
    {
        using var lease = await _pool.RentAsync(cancellation);
        return lease.Connection.DescribeQuery(query);
    }

    public ValueTask DisposeAsync()
    {
        _pool.Dispose();
        return ValueTask.CompletedTask;
    }
}
