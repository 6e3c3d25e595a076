using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;

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

    public ValueTask DisposeAsync()
    {
        _pool.Dispose();
        return ValueTask.CompletedTask;
    }
}
