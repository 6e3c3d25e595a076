using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Sources.Sql;

/// <summary>A prepared query for a server.</summary>
internal sealed class ServerQuery : IPreparedQuery
{
    private readonly ServerSource _source;
    private readonly Func<SqlText, SqlStatement> _write;
    private readonly NativeSchema _schema;
    private readonly SqlStatement _statement;
    private readonly SqlStatement _locking;
    private readonly CellReading[] _readings;

    public ServerQuery(
        ServerSource source,
        Func<SqlText, SqlStatement> write,
        IReadOnlyList<string> names,
        CellReading[] readings
    )
    {
        _source = source;
        _write = write;
        _schema = source.Native;
        _statement = write(source.Server.Text(_schema, null));
        _locking = _statement with { Text = _statement.Text + source.Server.Locking };
        _readings = readings;
        ColumnNames = names;
    }

    public int Width => ColumnNames.Count;

    public IReadOnlyList<string> ColumnNames { get; }

    public IReadOnlyList<int> SecretCells { get; init; } = [];

    public IPreparedQuery Latest => _source.HasReplica ? new LatestQuery(this) : this;

    public ValueTask RunAsync(IReadOnlyList<TypedValue> arguments, RowBlock into, CancellationToken cancellation) =>
        _source.HasReplica ? RunAnyAsync(arguments, into, cancellation) : RunLatestAsync(arguments, into, cancellation);

    /// <summary>Runs it on a connection of the caller.</summary>
    /// <param name="locks">Whether to lock the rows until the transaction ends.</param>
    public ValueTask RunAsync(
        ServerConnection connection,
        IReadOnlyList<TypedValue> arguments,
        RowBlock into,
        bool locks,
        CancellationToken cancellation
    ) => connection.RunAsync(locks ? _locking : _statement, arguments, _readings, into, null, cancellation);

    /// <summary>Runs it on the replica, if that answers and knows the tables, else on the source.</summary>
    private async ValueTask RunAnyAsync(IReadOnlyList<TypedValue> arguments, RowBlock into, CancellationToken cancellation)
    {
        var rows = into.Count;
        var lease = await _source.RentAnyAsync(cancellation);
        try
        {
            await RunAsync(lease, arguments, into, cancellation);
        }
        catch (SourceException trouble) when (trouble.Trouble != SourceTrouble.TooSlow && into.Count == rows)
        {
            // The replica went away, or lacks something that the source has.
            _source.RestReplica();
            await RunLatestAsync(arguments, into, cancellation);
        }
    }

    private ValueTask RunLatestAsync(IReadOnlyList<TypedValue> arguments, RowBlock into, CancellationToken cancellation)
    {
        var renting = _source.Readers.RentAsync(cancellation);
        return renting.IsCompletedSuccessfully
            ? RunAsync(renting.Result, arguments, into, cancellation)
            : WaitAndRunAsync(renting, arguments, into, cancellation);
    }

    private async ValueTask WaitAndRunAsync(
        ValueTask<ServerPool.Lease> renting,
        IReadOnlyList<TypedValue> arguments,
        RowBlock into,
        CancellationToken cancellation
    ) => await RunAsync(await renting, arguments, into, cancellation);

    /// <summary>Runs it on a connection that is returned afterwards.</summary>
    private ValueTask RunAsync(
        ServerPool.Lease lease,
        IReadOnlyList<TypedValue> arguments,
        RowBlock into,
        CancellationToken cancellation
    ) => lease.Connection.RunAsync(_statement, arguments, _readings, into, lease, cancellation);

    public async ValueTask<IReadOnlyList<string>?> ExplainAsync(
        IReadOnlyList<TypedValue> arguments,
        CancellationToken cancellation
    )
    {
        await using var lease = await _source.Readers.RentAsync(cancellation);
        return _source.Server.Plan(
            await lease.Connection.AskAsync(
                "EXPLAIN " + _statement.Text,
                [.. _statement.Arguments.Select(number => arguments[number])],
                cancellation
            )
        );
    }

    public string Shown(IReadOnlyList<TypedValue> arguments) => _write(_source.Server.Text(_schema, arguments)).Text + ";";

    /// <summary>The same query, never run on the replica.</summary>
    private sealed class LatestQuery(ServerQuery query) : IPreparedQuery
    {
        public int Width => query.Width;

        public IReadOnlyList<string> ColumnNames => query.ColumnNames;

        public IReadOnlyList<int> SecretCells => query.SecretCells;

        public ValueTask RunAsync(IReadOnlyList<TypedValue> arguments, RowBlock into, CancellationToken cancellation) =>
            query.RunLatestAsync(arguments, into, cancellation);

        public ValueTask<IReadOnlyList<string>?> ExplainAsync(
            IReadOnlyList<TypedValue> arguments,
            CancellationToken cancellation
        ) => query.ExplainAsync(arguments, cancellation);

        public string Shown(IReadOnlyList<TypedValue> arguments) => query.Shown(arguments);
    }
}
