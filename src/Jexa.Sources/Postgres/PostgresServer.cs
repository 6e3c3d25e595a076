using System.Data.Common;
using System.Globalization;
using System.Text.RegularExpressions;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Sources.Sql;
using Npgsql;
using NpgsqlTypes;

namespace Jexa.Sources.Postgres;

/// <summary>
/// PostgreSQL, through its driver. Connections are set up when they are opened, so that each query of a visit is one round trip.
/// </summary>
internal sealed partial class PostgresServer : SqlServer
{
    private const int DaysBefore2000 = 730_119;
    private const long MicrosecondsADay = 86_400_000_000;

    /// <summary>Settings for a transaction, if a proxy gives each transaction another session.</summary>
    private readonly string _setUp;

    private readonly string _reading;
    private readonly string _replica;
    private readonly string _changing;
    private volatile PostgresRules _rules = PostgresRules.None;

    public PostgresServer(SourceSettings settings)
        : base(settings)
    {
        _reading = Connection(settings, settings.Connection, readOnly: true);
        _replica = Connection(settings, settings.Replica ?? settings.Connection, readOnly: true);
        _changing = Connection(settings, settings.Connection, readOnly: false);
        _setUp =
            $"SELECT set_config('statement_timeout', '{(int)settings.TimeLimit.TotalMilliseconds}', true), "
            + "set_config('DateStyle', 'ISO', true), set_config('IntervalStyle', 'iso_8601', true), "
            + "set_config('TimeZone', 'UTC', true)";
    }

    public override string Product => "PostgreSQL";

    public override SqlScript Script => PostgresText.Reading;

    public override string Locking => " FOR UPDATE OF t0";

    public override string MakeNotes => "CREATE TABLE IF NOT EXISTS jexa_commit (token text PRIMARY KEY, key text)";

    public override string AddNote => "INSERT INTO jexa_commit (token, key) VALUES ($1::text, $2::text) ON CONFLICT DO NOTHING";

    /// <summary>Prepared commands belong to a session, which such a proxy gives to other clients.</summary>
    public override bool Prepares => !Settings.PoolsTransactions;

    public override IReadOnlyList<string> Begin =>
        Settings.PoolsTransactions ? ["BEGIN", _setUp, "SET LOCAL idle_in_transaction_session_timeout = 60000"] : ["BEGIN"];

    public override string Quote(string name) => PostgresText.Quote(name);

    public override string Placeholder(int position) => $"${position + 1}::text";

    public override ValueTask<DbConnection> OpenAsync(ServerUse use, CancellationToken cancellation) =>
        OpenAsync(
            new NpgsqlConnection(
                use switch
                {
                    ServerUse.Changing => _changing,
                    ServerUse.ReadingReplica => _replica,
                    _ => _reading,
                }
            ),
            null,
            cancellation
        );

    /// <summary>Behind a proxy that pools transactions, one round trip sets up the transaction and runs the query.</summary>
    public override Task ExecuteAsync(DbCommand command, bool onlyReads) =>
        onlyReads && Settings.PoolsTransactions
            ? ExecutePooledAsync(command)
            : ((NpgsqlCommand)command).ExecuteReaderAsync(CancellationToken.None);

    public override DbDataReader ReaderOf(Task executed) => ((Task<NpgsqlDataReader>)executed).Result;

    private async Task<NpgsqlDataReader> ExecutePooledAsync(DbCommand command)
    {
        var asked = new NpgsqlBatchCommand(command.CommandText);
        foreach (NpgsqlParameter parameter in command.Parameters)
            asked.Parameters.Add(parameter.Clone());
        await using var batch = new NpgsqlBatch((NpgsqlConnection)command.Connection!)
        {
            BatchCommands = { new NpgsqlBatchCommand(_setUp + ", set_config('transaction_read_only', 'on', true)"), asked },
        };
        var reader = await batch.ExecuteReaderAsync(CancellationToken.None);
        try
        {
            await reader.NextResultAsync(CancellationToken.None);
            return reader;
        }
        catch
        {
            // The command was refused; the connection can be used again.
            await reader.DisposeAsync();
            throw;
        }
    }

    public override SqlText Text(NativeSchema schema, IReadOnlyList<TypedValue>? shown) =>
        new PostgresText(schema) { Shown = shown };

    /// <summary>Without a type: the server takes the type that the text casts it to.</summary>
    public override DbParameter Parameter(int position) =>
        new NpgsqlParameter { NpgsqlDbType = NpgsqlDbType.Unknown, Value = DBNull.Value };

    public override void Bind(DbParameter parameter, TypedValue value) =>
        parameter.Value = (object?)PostgresText.Written(value) ?? DBNull.Value;

    public override void Read(DbDataReader reader, int column, CellReading reading, RowBlock into)
    {
        switch (reading.Kind)
        {
            case NativeKind.Integer:
                TextCells.Add(reader.GetFieldValue<long>(column), reading.Type, into);
                break;
            case NativeKind.Real:
                into.AddReal(reader.GetFieldValue<double>(column));
                break;
            case NativeKind.Boolean:
                into.AddNumber(reading.IsStored ? CellKind.Integer : CellKind.Boolean, reader.GetBoolean(column) ? 1 : 0);
                break;
            case NativeKind.Date:
                AddDate(reader.GetFieldValue<int>(column), reading.IsStored, into);
                break;
            case NativeKind.Timestamp or NativeKind.Moment:
                AddTimestamp(reader.GetFieldValue<long>(column), reading.IsStored, into);
                break;
            case NativeKind.Uuid when !reading.IsStored:
                TextCells.Add(reader.GetGuid(column), into);
                break;
            case NativeKind.Uuid:
                TextCells.Add(reader.GetGuid(column).ToString("D"), FieldType.Any, into);
                break;
            case NativeKind.Bytes:
                TextCells.AddBytes(reader.GetFieldValue<byte[]>(column), reading.Type, into);
                break;
            case NativeKind.Decimal
                when reading.Type == FieldType.Integer
                    && long.TryParse(
                        reader.GetString(column),
                        NumberStyles.AllowLeadingSign,
                        CultureInfo.InvariantCulture,
                        out var whole
                    ):
                into.AddNumber(CellKind.Integer, whole);
                break;
            default:
                TextCells.Add(reader.GetString(column), reading.Type, into);
                break;
        }
    }

    public override async ValueTask<(SourceSchema Schema, NativeSchema Native)> DescribeAsync(
        ServerConnection connection,
        CancellationToken cancellation
    )
    {
        var (schema, native, rules) = await PostgresDescriber.DescribeAsync(connection, cancellation);
        _rules = rules;
        return (schema, native);
    }

    public override ValueTask<IReadOnlyList<NativeColumn>> DescribeQueryAsync(
        ServerConnection connection,
        string query,
        CancellationToken cancellation
    ) => PostgresDescriber.DescribeQueryAsync(connection, query, cancellation);

    public override Exception Translate(DbException error)
    {
        if (error is not PostgresException said)
            return error.InnerException is TimeoutException
                ? new SourceException(SourceTrouble.TooSlow, "PostgreSQL did not answer in time.", error)
                : new SourceException(
                    SourceTrouble.Away,
                    $"PostgreSQL cannot be reached: {error.InnerException?.Message ?? error.Message}",
                    error
                );
        var message = $"PostgreSQL says: {said.MessageText} (SQLSTATE {said.SqlState}).";
        RefusedException Refused(RefusalReason reason, IReadOnlyList<string> columns, string words = "") =>
            new(reason, columns, words, message);
        return said.SqlState switch
        {
            PostgresErrorCodes.UniqueViolation => Refused(RefusalReason.Unique, Columns(said)),
            PostgresErrorCodes.NotNullViolation => Refused(RefusalReason.Empty, said.ColumnName is { } column ? [column] : []),
            PostgresErrorCodes.ForeignKeyViolation => Refused(
                RefusalReason.Reference,
                said.MessageText.StartsWith("insert", StringComparison.Ordinal) ? Columns(said) : []
            ),
            PostgresErrorCodes.CheckViolation => Refused(RefusalReason.Check, Columns(said)),
            PostgresErrorCodes.ExclusionViolation => Refused(RefusalReason.Other, []),
            PostgresErrorCodes.RaiseException => Refused(RefusalReason.Own, [], said.MessageText),
            ['2', '2', ..] => Refused(RefusalReason.Type, said.ColumnName is { } column ? [column] : []),
            PostgresErrorCodes.QueryCanceled => new SourceException(
                SourceTrouble.TooSlow,
                $"The query was stopped after its time limit of {Settings.TimeLimit.TotalSeconds:0.#} s.",
                error
            ),
            PostgresErrorCodes.LockNotAvailable
            or PostgresErrorCodes.DeadlockDetected
            or PostgresErrorCodes.SerializationFailure => new SourceException(SourceTrouble.TooSlow, message, error),
            ['2', '8', ..] or ['3', 'D', ..] => new SourceException(SourceTrouble.Away, message, error) { IsSettled = true },
            ['0', '8', ..] or ['5', '3', ..] or ['5', '7', 'P', ..] or ['5', '8', ..] => new SourceException(
                SourceTrouble.Away,
                message,
                error
            ),
            _ => new SourceException(SourceTrouble.Failed, message, error),
        };
    }

    public override bool IsFull(DbException error) =>
        error is PostgresException { SqlState: PostgresErrorCodes.TooManyConnections };

    public override bool IsStale(DbException error) =>
        error
            is PostgresException
            {
                SqlState: PostgresErrorCodes.FeatureNotSupported
                    or PostgresErrorCodes.InvalidSqlStatementName
                    or PostgresErrorCodes.DuplicatePreparedStatement
            };

    /// <summary>
    /// Behind a proxy that pools transactions, nobody here knows which session of the server is running the command. The server's
    /// own time limit ends it.
    /// </summary>
    protected override (DbConnection Other, string Text)? Stopping(DbConnection connection) =>
        Settings.PoolsTransactions
            ? null
            : (
                new NpgsqlConnection(connection.ConnectionString),
                $"SELECT pg_cancel_backend({((NpgsqlConnection)connection).ProcessID})"
            );

    public override async ValueTask ClaimAsync(ServerConnection connection, string token, CancellationToken cancellation) =>
        await connection.ExecuteAsync(
            "SELECT pg_advisory_xact_lock(hashtextextended($1::text, 740)) IS NULL",
            [new TypedValue.Text(token)],
            cancellation
        );

    /// <summary>The end of the transaction releases it.</summary>
    public override ValueTask ReleaseAsync(ServerConnection connection) => ValueTask.CompletedTask;

    private static string Connection(SourceSettings settings, string connection, bool readOnly)
    {
        var builder = Read(
            connection,
            new NpgsqlConnectionStringBuilder(),
            "Host=127.0.0.1;Database=register;Username=reader",
            "postgresql",
            "postgres"
        );
        var options =
            $"-c statement_timeout={(int)settings.TimeLimit.TotalMilliseconds} -c "
            + "idle_in_transaction_session_timeout=60000 -c DateStyle=ISO -c "
            + $"IntervalStyle=iso_8601{(readOnly ? " -c default_transaction_read_only=on" : "")}";
        if (!settings.PoolsTransactions)
            builder.Options = string.IsNullOrEmpty(builder.Options) ? options : $"{builder.Options} {options}";
        builder.NoResetOnClose = settings.PoolsTransactions;
        builder.Timezone = "UTC";
        builder.Pooling = false;
        builder.CommandTimeout = 0;
        builder.PersistSecurityInfo = true;
        builder.Timeout = Math.Max(1, (int)Math.Ceiling(settings.TimeLimit.TotalSeconds));
        builder.IncludeErrorDetail = true;
        builder.ApplicationName ??= "jexa";
        return builder.ConnectionString;
    }

    /// <summary>Days since 2000-01-01. The greatest and the least number mean infinity.</summary>
    private static void AddDate(int days, bool isStored, RowBlock into)
    {
        var day = (long)days + DaysBefore2000;
        if (day < 0 || day > DateOnly.MaxValue.DayNumber)
            TextCells.Add(
                days is int.MaxValue ? "infinity"
                    : days is int.MinValue ? "-infinity"
                    : Julian(day),
                FieldType.Any,
                into
            );
        else if (isStored)
            TextCells.Add(
                DateOnly.FromDayNumber((int)day).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
                FieldType.Any,
                into
            );
        else
            into.AddNumber(CellKind.Date, day);
    }

    /// <summary>Microseconds since 2000-01-01T00:00:00. The greatest and the least number mean infinity.</summary>
    private static void AddTimestamp(long microseconds, bool isStored, RowBlock into)
    {
        var day = Math.DivRem(microseconds, MicrosecondsADay, out var rest) + DaysBefore2000 - (rest < 0 ? 1 : 0);
        if (day < 0 || day > DateOnly.MaxValue.DayNumber)
        {
            TextCells.Add(
                microseconds is long.MaxValue ? "infinity"
                    : microseconds is long.MinValue ? "-infinity"
                    : Julian(day),
                FieldType.Any,
                into
            );
            return;
        }

        var ticks = (microseconds * 10) + (DaysBefore2000 * TimeSpan.TicksPerDay);
        if (isStored)
            TextCells.Add(TextCells.Stored(new DateTime(ticks)), FieldType.Any, into);
        else
            into.AddNumber(CellKind.Timestamp, ticks);
    }

    /// <summary>A day outside of the years 1 to 9999, in a form that PostgreSQL reads back: its Julian day number.</summary>
    private static string Julian(long day) => $"J{day + 1_721_426}";

    /// <summary>The columns of a violated rule: from the error's detail, else those of the constraint.</summary>
    private IReadOnlyList<string> Columns(PostgresException said) =>
        said.ConstraintName is { } name && _rules.ColumnsOf(said.TableName ?? "", name) is { } known ? known
        : said.Detail is { } detail && KeyDetail().Match(detail) is { Success: true } match
            ? [.. match.Groups[1].Value.Split(", ").Select(column => column.Trim('"'))]
        : [];

    [GeneratedRegex(@"^Key \(([^)]*)\)=")]
    private static partial Regex KeyDetail();
}
