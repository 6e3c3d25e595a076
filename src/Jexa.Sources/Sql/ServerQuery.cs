using Jexa.Core.Plans;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Sources.Sql;

/// <summary>A query prepared for a server.</summary>
internal sealed class ServerQuery : IPreparedQuery
{
    private readonly ServerSource _source;
    private readonly Func<SqlText, SqlStatement> _write;
    private readonly NativeSchema _schema;
    private readonly SqlStatement _statement;
    private readonly CellReading[] _readings;

    public ServerQuery(ServerSource source, Func<SqlText, SqlStatement> write, IReadOnlyList<string> names, CellReading[] readings)
    {
        _source = source;
        _write = write;
        _schema = source.Native;
        _statement = write(source.Server.Text(_schema, null));
        _readings = readings;
        ColumnNames = names;
    }

    public int Width => ColumnNames.Count;

    public IReadOnlyList<string> ColumnNames { get; }

    public IReadOnlyList<int> SecretCells { get; init; } = [];

    public IPreparedQuery Latest => _source.HasReplica ? new LatestQuery(this) : this;

    public async ValueTask RunAsync(IReadOnlyList<Constant> arguments, RowBlock into, CancellationToken cancellation)
    {
        var rows = into.Count;
        await using (var lease = await _source.RentAnyAsync(cancellation))
        {
            try
            {
                await RunAsync(lease.Connection, arguments, into, locks: false, cancellation);
                return;
            }
            catch (SourceException trouble) when (_source.HasReplica && trouble.Trouble != SourceTrouble.TooSlow && into.Count == rows)
            {
                // The replica went while it was asked, or lacks what the source has: the source itself knows.
                _source.RestReplica();
            }
        }

        await RunLatestAsync(arguments, into, cancellation);
    }

    private async ValueTask RunLatestAsync(IReadOnlyList<Constant> arguments, RowBlock into, CancellationToken cancellation)
    {
        await using var lease = await _source.Readers.RentAsync(cancellation);
        await RunAsync(lease.Connection, arguments, into, locks: false, cancellation);
    }

    /// <param name="locks">Whether nobody else is to change the rows before the transaction ends.</param>
    public ValueTask<int> RunAsync(ServerConnection connection, IReadOnlyList<Constant> arguments, RowBlock into, bool locks, CancellationToken cancellation) =>
        connection.RunAsync(locks ? _statement.Text + _source.Server.Locking : _statement.Text, _statement.Arguments, arguments, _readings, into, cancellation);

    public string Shown(IReadOnlyList<Constant> arguments) => _write(_source.Server.Text(_schema, arguments)).Text + ";";

    /// <summary>The query asked of the source itself, never of its replica.</summary>
    private sealed class LatestQuery(ServerQuery query) : IPreparedQuery
    {
        public int Width => query.Width;

        public IReadOnlyList<string> ColumnNames => query.ColumnNames;

        public IReadOnlyList<int> SecretCells => query.SecretCells;

        public ValueTask RunAsync(IReadOnlyList<Constant> arguments, RowBlock into, CancellationToken cancellation) => query.RunLatestAsync(arguments, into, cancellation);

        public string Shown(IReadOnlyList<Constant> arguments) => query.Shown(arguments);
    }
}
