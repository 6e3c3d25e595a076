using Jexa.Core.Files;
using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Sources.Sqlite;

/// <summary>
/// One SQLite file, read through a fixed number of connections that cannot write, and changed through one that can. The file is
/// never created.
/// </summary>
internal sealed class SqliteSource : ISource
{
    private readonly SqlitePool _pool;
    private readonly SqliteWriter _writer;
    private readonly string _path;
    private readonly SourceWriting _writing;

    public SqliteSource(SourceSettings settings)
    {
        _path = Path.GetFullPath(settings.Connection, Path.GetFullPath(settings.BaseFolder));
        _writing = settings.Writing;
        _pool = new SqlitePool(_path, settings);
        _writer = new SqliteWriter(_pool, settings);
    }

    public async ValueTask<SourceSchema> DescribeAsync(CancellationToken cancellation)
    {
        using var lease = await _pool.RentAsync(cancellation);
        var schema = SqliteDescriber.Describe(lease.Connection);
        return schema with
        {
            ReadOnlyBecause =
                _writing == SourceWriting.Refused ? "the app file says that nothing is to be written there (writing: refused)"
                : CanWrite() ? null
                : "its file cannot be written to",
        };
    }

    public async ValueTask ProbeAsync(CancellationToken cancellation)
    {
        using var lease = await _pool.RentAsync(cancellation);
        lease.Connection.Ask("SELECT count(*) FROM sqlite_schema");
    }

    public int Connections => _pool.Most;

    public IPreparedQuery Prepare(RecordQuery query) =>
        new SqliteQuery(_pool, text => text.Write(query), query.CellNames, [.. query.Columns.Select(column => column.Type)])
        {
            SecretCells = [.. Enumerable.Range(0, query.Columns.Count).Where(i => query.Columns[i].Secret)],
        };

    public IPreparedQuery Prepare(CountQuery query) =>
        new SqliteQuery(_pool, text => text.Write(query), ["(count)"], [], isCount: true);

    public IPreparedQuery Prepare(GroupQuery query) =>
        new SqliteQuery(
            _pool,
            text => text.Write(query),
            [.. query.Columns.Select(column => column.Column.Name), "(count)"],
            [
                .. query.Columns.Select(column =>
                    column.Column == query.By && query.Part != GroupPart.Whole ? FieldType.Integer : column.Type
                ),
            ]
        );

    public IPreparedQuery Prepare(CombinedQuery query)
    {
        var first = query.Searches[0][0];
        return new SqliteQuery(
            _pool,
            text => text.Write(query),
            [.. first.CellNames, "(search)"],
            [.. first.Columns.Select(column => column.Type)]
        );
    }

    public ValueTask<IWriteSession> BeginWriteAsync(CancellationToken cancellation) => _writer.BeginAsync(cancellation);

    public async ValueTask<QuerySchema> DescribeQueryAsync(string query, CancellationToken cancellation)
    {
        using var lease = await _pool.RentAsync(cancellation);
        return lease.Connection.DescribeQuery(query);
    }

    public ValueTask DisposeAsync()
    {
        _writer.Dispose();
        _pool.Dispose();
        return ValueTask.CompletedTask;
    }

    /// <summary>
    /// Whether the file, and the folder of its journal, may be written to. The file is not opened: that would drop SQLite's locks
    /// on it.
    /// </summary>
    private bool CanWrite() =>
        FileIdentity.CanWrite(_path)
        && FileIdentity.CanWrite(Path.GetDirectoryName(_path)!)
        // The superuser may write everything. A file marked as read-only is still not written.
        && (File.GetUnixFileMode(_path) & (UnixFileMode.UserWrite | UnixFileMode.GroupWrite | UnixFileMode.OtherWrite)) != 0;
}
