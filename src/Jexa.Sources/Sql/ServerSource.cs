using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Sources.Sql;

/// <summary>One database on a server: read through connections that cannot write, changed through others.</summary>
internal sealed class ServerSource : ISource
{
    private const int MostReaders = 16;
    private const int MostWriters = 8;

    private const long ReplicaRest = 5_000;

    private readonly ServerPool _writers;
    private readonly ServerPool? _replica;
    private long _replicaRests;
    private volatile NativeSchema _native = NativeSchema.Nothing;
    private volatile bool _hasNotes;

    public ServerSource(SqlServer server)
    {
        Server = server;
        Readers = new ServerPool(server, ServerUse.Reading, MostReaders);
        _writers = new ServerPool(server, ServerUse.Changing, MostWriters);
        if (server.Settings.Replica is not null)
            _replica = new ServerPool(server, ServerUse.ReadingReplica, MostReaders);
    }

    public SqlServer Server { get; }

    public ServerPool Readers { get; }

    /// <summary>What the server described last.</summary>
    public NativeSchema Native => _native;

    public async ValueTask<SourceSchema> DescribeAsync(CancellationToken cancellation)
    {
        await using var lease = await Readers.RentAsync(cancellation);
        var (schema, native) = await Server.DescribeAsync(lease.Connection, cancellation);
        _native = native;
        return Server.Settings.Writing switch
        {
            SourceWriting.Refused => schema with
            {
                ReadOnlyBecause = "the app file says that nothing is to be written there (writing: refused)",
            },
            SourceWriting.Noted when !schema.TakesNotes && schema.ReadOnlyBecause is null => schema with
            {
                ReadOnlyBecause =
                    "the user of the connection may not make Jexa's table jexa_commit there, nor use one that is "
                    + $"there (make it: {Server.MakeNotes}; or say writing: bare)",
            },
            _ => schema,
        };
    }

    public async ValueTask ProbeAsync(CancellationToken cancellation)
    {
        await using var lease = await Readers.RentAsync(cancellation);
        await lease.Connection.AskAsync("SELECT 1", cancellation);
    }

    public int Connections => MostReaders;

    public IPreparedQuery Prepare(RecordQuery query) =>
        new ServerQuery(this, text => text.Write(query), query.CellNames, Readings(query))
        {
            SecretCells = [.. Enumerable.Range(0, query.Columns.Count).Where(i => query.Columns[i].Secret)],
        };

    public IPreparedQuery Prepare(CountQuery query) =>
        new ServerQuery(this, text => text.Write(query), ["(count)"], [CellReading.Count]);

    public IPreparedQuery Prepare(GroupQuery query) =>
        new ServerQuery(
            this,
            text => text.Write(query),
            [.. query.Columns.Select(column => column.Column.Name), "(count)"],
            [
                .. query.Columns.Select(column =>
                    column.Column == query.By && query.Part != GroupPart.Whole
                        ? CellReading.Count
                        : Reading(query.Table, query.Joins, column)
                ),
                CellReading.Count,
            ]
        );

    public IPreparedQuery Prepare(CombinedQuery query)
    {
        var first = query.Searches[0][0];
        return new ServerQuery(
            this,
            text => text.Write(query),
            [.. first.CellNames, "(search)"],
            [.. Readings(first), CellReading.Count]
        );
    }

    public async ValueTask<IWriteSession> BeginWriteAsync(CancellationToken cancellation)
    {
        if (Server.Settings.Writing == SourceWriting.Refused)
            throw new SourceException(SourceTrouble.Failed, "Nothing is to be written to this source.");
        var lease = await _writers.RentAsync(cancellation);
        try
        {
            if (Server.Settings.Writing == SourceWriting.Noted && !_hasNotes)
            {
                await MakeNotesAsync(lease.Connection, cancellation);
                _hasNotes = true;
            }

            foreach (var begin in Server.Begin)
                await lease.Connection.ExecuteAsync(begin, [], cancellation);
            return new ServerSession(this, lease);
        }
        catch
        {
            await lease.DisposeAsync();
            throw;
        }
    }

    public async ValueTask<QuerySchema> DescribeQueryAsync(string query, CancellationToken cancellation)
    {
        var parameters = Server.Script.Parameters(query);
        if (Server.Script.HasSeveral(query))
            return new QuerySchema([], parameters, "It holds more than one statement.");
        if (string.IsNullOrWhiteSpace(Server.Script.Fill(query, _ => "NULL")))
            return new QuerySchema([], parameters, "It is empty.");
        await using var lease = await Readers.RentAsync(cancellation);
        try
        {
            var columns = await Server.DescribeQueryAsync(lease.Connection, Server.Script.Fill(query, _ => "NULL"), cancellation);
            _native.Queries[query] = columns;
            return columns.Count == 0
                ? new QuerySchema([], parameters, "It gives no rows.")
                : new QuerySchema([.. columns.Select(column => column.Column)], parameters, null);
        }
        catch (SourceException bad) when (bad.Trouble == SourceTrouble.Failed)
        {
            return new QuerySchema([], parameters, bad.Message);
        }
    }

    public async ValueTask DisposeAsync()
    {
        await _writers.DisposeAsync();
        if (_replica is not null)
            await _replica.DisposeAsync();
        await Readers.DisposeAsync();
    }

    /// <summary>
    /// A connection that may miss the latest changes: to the replica if there is one and it answers, else to the source. If the
    /// replica does not answer, it is not asked for a while.
    /// </summary>
    public async ValueTask<ServerPool.Lease> RentAnyAsync(CancellationToken cancellation)
    {
        if (_replica is null || Server.Settings.Clock.Milliseconds() < Interlocked.Read(ref _replicaRests))
            return await Readers.RentAsync(cancellation);
        try
        {
            return await _replica.RentAsync(cancellation);
        }
        catch (SourceException)
        {
            RestReplica();
            return await Readers.RentAsync(cancellation);
        }
    }

    /// <summary>Reads from the source instead of the replica for a while.</summary>
    public void RestReplica() => Interlocked.Exchange(ref _replicaRests, Server.Settings.Clock.Milliseconds() + ReplicaRest);

    public bool HasReplica => _replica is not null;

    private async ValueTask MakeNotesAsync(ServerConnection connection, CancellationToken cancellation)
    {
        if (await HasNotesAsync(connection, cancellation))
            return;
        try
        {
            await connection.AskAsync(Server.MakeNotes, cancellation);
        }
        catch (Exception refused) when (refused is RefusedException or SourceException { Trouble: SourceTrouble.Failed })
        {
            // Another save may have created it at the same moment. PostgreSQL then fails, whatever IF NOT EXISTS says.
            if (await HasNotesAsync(connection, cancellation))
                return;
            throw new SourceException(
                SourceTrouble.Failed,
                $"Jexa cannot make its table jexa_commit there: {refused.Message} Make it yourself "
                    + $"({Server.MakeNotes}), or say writing: bare.",
                refused
            );
        }
    }

    private static async ValueTask<bool> HasNotesAsync(ServerConnection connection, CancellationToken cancellation)
    {
        try
        {
            await connection.AskAsync("SELECT token FROM jexa_commit WHERE 1 = 0", cancellation);
            return true;
        }
        catch (SourceException missing) when (missing.Trouble == SourceTrouble.Failed)
        {
            return false;
        }
    }

    private CellReading[] Readings(RecordQuery query) =>
        [
            .. query.Columns.Select(column => Reading(query.Table, query.Joins, column)),
            .. Enumerable.Repeat(CellReading.Count, query.Width - query.Columns.Count),
        ];

    private CellReading Reading(RowOrigin table, IReadOnlyList<Join> joins, Projection projection)
    {
        var kind = _native
            .Find(projection.Column.Table == 0 ? table : joins[projection.Column.Table - 1].Table, projection.Column.Name)
            ?.Kind
            ?? NativeKind.Other;
        return new CellReading(kind, projection.Type, projection.Type == FieldType.Any);
    }
}
