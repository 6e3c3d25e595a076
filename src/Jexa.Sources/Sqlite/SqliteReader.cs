using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Sources.Sql;
using Microsoft.Data.Sqlite;
using SQLitePCL;

namespace Jexa.Sources.Sqlite;

/// <summary>
/// One connection, for reading only unless it is opened for writing. The driver opens it. Statements are kept prepared and run
/// through the driver's lower layer, which gives text as UTF-8, storage classes, and a hook that ends a query at its time limit
/// or when the visitor leaves. Only one caller may use it at a time.
/// </summary>
internal sealed class SqliteReader : IDisposable
{
    private const int InstructionsBetweenLooks = 2000;
    private const int MaxStatements = 1000;

    /// <summary>SQLITE_DBCONFIG_NO_CKPT_ON_CLOSE.</summary>
    private const int NoCheckpointOnClose = 1006;

    private readonly SqliteConnection _connection;
    private readonly sqlite3 _handle;
    private readonly TimeSpan _timeLimit;
    private readonly TimeProvider _clock;
    private readonly Dictionary<SqliteQuery, sqlite3_stmt> _statements = [];
    private readonly Dictionary<(SqliteQuery Query, string Arguments), (long Version, long Count)> _counts = [];
    private readonly Dictionary<string, sqlite3_stmt> _changes = [];
    private readonly sqlite3_stmt _dataVersion;
    private readonly bool _wideText;
    private long _startedAt;
    private CancellationToken _cancellation;

    public SqliteReader(SqliteConnection connection, TimeSpan timeLimit, TimeProvider clock, int generation, bool writes = false)
    {
        Generation = generation;
        _connection = connection;
        _handle = connection.Handle!;
        _timeLimit = timeLimit;
        _clock = clock;
        Begin(CancellationToken.None);
        raw.sqlite3_busy_timeout(_handle, (int)timeLimit.TotalMilliseconds);
        raw.sqlite3_progress_handler(
            _handle,
            InstructionsBetweenLooks,
            static self => ((SqliteReader)self).MustStop() ? 1 : 0,
            this
        );
        // A connection that writes enforces foreign keys, which SQLite does not do by itself.
        using var rule = PrepareOnce(writes ? "PRAGMA foreign_keys=1" : "PRAGMA query_only=1");
        Check(raw.sqlite3_step(rule), raw.SQLITE_DONE);
        _dataVersion = PrepareOnce("PRAGMA data_version");
        _wideText = Ask("PRAGMA encoding")[0][0] != "UTF-8";
    }

    /// <summary>The number of the file that it was opened on.</summary>
    public int Generation { get; }

    /// <summary>Whether it met an error after which it should be opened again.</summary>
    public bool IsBroken { get; private set; }

    /// <summary>Runs a prepared statement and appends its rows.</summary>
    public void Run(SqliteQuery query, IReadOnlyList<TypedValue> arguments, RowBlock into, CancellationToken cancellation)
    {
        Begin(cancellation);
        if (!_statements.TryGetValue(query, out var statement))
            statement = Keep(query);
        try
        {
            Bind(statement, arguments);
            var cells = statement.DangerousGetHandle();
            while (Step(statement, cancellation))
                ReadRow(statement, cells, query, into);
        }
        finally
        {
            raw.sqlite3_reset(statement);
        }
    }

    /// <summary>
    /// Runs a count, or returns the last one if nobody has committed since. SQLite tells that in a microsecond (this connection
    /// itself never writes).
    /// </summary>
    public void Count(SqliteQuery query, IReadOnlyList<TypedValue> arguments, RowBlock into, CancellationToken cancellation)
    {
        Begin(cancellation);
        var version = DataVersion();
        var asked = (query, ArgumentKey.Of(arguments));
        if (_counts.TryGetValue(asked, out var known) && known.Version == version)
        {
            into.BeginRow();
            into.AddNumber(CellKind.Integer, known.Count);
            return;
        }

        Run(query, arguments, into, cancellation);
        if (_counts.Count >= MaxStatements)
            _counts.Clear();
        _counts[asked] = (version, into[into.Count - 1][0].Integer);
    }

    /// <summary>Examines a developer's own query without running it.</summary>
    public QuerySchema DescribeQuery(string query)
    {
        Begin(CancellationToken.None);
        var result = raw.sqlite3_prepare_v2(_handle, utf8z.FromString(query), out var statement, out var rest);
        using (statement)
        {
            var parameters = SqliteText.Reading.Parameters(query);
            if (result != raw.SQLITE_OK)
                return new QuerySchema([], parameters, $"SQLite cannot read it: {raw.sqlite3_errmsg(_handle).utf8_to_string()}.");
            if (statement.IsInvalid)
                return new QuerySchema([], parameters, "It is empty.");
            if (SqliteText.Reading.Fill(rest.utf8_to_string() ?? "", _ => "?").Trim(' ', ';', '\n', '\r', '\t').Length > 0)
                return new QuerySchema([], parameters, "It holds more than one statement.");
            if (raw.sqlite3_stmt_readonly(statement) == 0)
                return new QuerySchema([], parameters, "It writes.");
            var width = raw.sqlite3_column_count(statement);
            if (width == 0 || raw.sqlite3_stmt_isexplain(statement) != 0)
                return new QuerySchema([], parameters, "It gives no rows.");
            if (raw.sqlite3_bind_parameter_count(statement) != parameters.Count)
                return new QuerySchema(
                    [],
                    parameters,
                    "It has parameters without a name (? or ?1); each needs one, such as :year."
                );
            return new QuerySchema(
                [
                    .. Enumerable
                        .Range(0, width)
                        .Select(i =>
                            SqliteDescriber.QueryColumn(
                                raw.sqlite3_column_name(statement, i).utf8_to_string(),
                                raw.sqlite3_column_decltype(statement, i).utf8_to_string() ?? ""
                            )
                        ),
                ],
                parameters,
                null
            );
        }
    }

    /// <summary>Runs a query of the describer once: every column of every row as text or null.</summary>
    public List<string?[]> Ask(string sql, params string[] arguments)
    {
        Begin(CancellationToken.None);
        using var statement = PrepareOnce(sql);
        for (var i = 0; i < arguments.Length; i++)
            Check(raw.sqlite3_bind_text(statement, i + 1, arguments[i]), raw.SQLITE_OK);
        var rows = new List<string?[]>();
        var width = raw.sqlite3_column_count(statement);
        while (Step(statement, CancellationToken.None))
        {
            var row = new string?[width];
            for (var i = 0; i < width; i++)
                row[i] =
                    raw.sqlite3_column_type(statement, i) == raw.SQLITE_NULL
                        ? null
                        : raw.sqlite3_column_text(statement, i).utf8_to_string();
            rows.Add(row);
        }

        return rows;
    }

    /// <summary>How SQLite would run a query: its steps, those within another one set in.</summary>
    public List<string> Explain(SqliteQuery query, IReadOnlyList<TypedValue> arguments, CancellationToken cancellation)
    {
        Begin(cancellation);
        using var statement = PrepareOnce("EXPLAIN QUERY PLAN " + query.Text);
        Bind(statement, arguments);
        var depths = new Dictionary<long, int>();
        var lines = new List<string>();
        while (Step(statement, cancellation))
        {
            var depth = depths.GetValueOrDefault(raw.sqlite3_column_int64(statement, 1), -1) + 1;
            depths[raw.sqlite3_column_int64(statement, 0)] = depth;
            lines.Add(new string(' ', 2 * depth) + raw.sqlite3_column_text(statement, 3).utf8_to_string());
        }

        return lines;
    }

    /// <summary>
    /// Runs a statement that changes something, prepared under its text. Returns its rows, as they are stored, and the number of
    /// changed rows without those changed by triggers.
    /// </summary>
    /// <exception cref="RefusedException">A rule of the source forbids it.</exception>
    public (int Changed, TypedValue[]? Returned) Execute(
        string sql,
        IReadOnlyList<TypedValue> arguments,
        CancellationToken cancellation
    )
    {
        Begin(cancellation);
        if (!_changes.TryGetValue(sql, out var statement))
        {
            if (_changes.Count >= MaxStatements)
                ForgetChanges();
            Check(raw.sqlite3_prepare_v3(_handle, sql, raw.SQLITE_PREPARE_PERSISTENT, out statement), raw.SQLITE_OK);
            _changes[sql] = statement;
        }

        try
        {
            Bind(statement, arguments);
            TypedValue[]? returned = null;
            int result;
            while ((result = raw.sqlite3_step(statement)) == raw.SQLITE_ROW)
                returned = [.. Enumerable.Range(0, raw.sqlite3_column_count(statement)).Select(i => Stored(statement, i))];
            if (result == raw.SQLITE_DONE)
                return (raw.sqlite3_changes(_handle), returned);
            cancellation.ThrowIfCancellationRequested();
            if ((result & 0xff) == raw.SQLITE_INTERRUPT)
                throw new SourceException(
                    SourceTrouble.TooSlow,
                    $"The change was stopped after its time limit of {_timeLimit.TotalSeconds:0.#} s."
                );
            if (
                SqliteTrouble.Refusal(raw.sqlite3_extended_errcode(_handle), raw.sqlite3_errmsg(_handle).utf8_to_string()) is
                { } refusal
            )
                throw refusal;
            throw Trouble(result);
        }
        finally
        {
            raw.sqlite3_reset(statement);
            raw.sqlite3_clear_bindings(statement);
        }
    }

    /// <summary>Closing it does not write its write-ahead log into the database: others may have changed the database.</summary>
    public void LeaveLog() => raw.sqlite3_db_config(_handle, NoCheckpointOnClose, 1, out _);

    /// <summary>Whether a transaction is open.</summary>
    public bool IsInTransaction => raw.sqlite3_get_autocommit(_handle) == 0;

    /// <summary>The name of a table column's own collation.</summary>
    public string CollationOf(string table, string column)
    {
        Check(
            raw.sqlite3_table_column_metadata(_handle, "main", table, column, out _, out var collation, out _, out _, out _),
            raw.SQLITE_OK
        );
        return collation;
    }

    public void Dispose()
    {
        foreach (var statement in _statements.Values)
            statement.Dispose();
        _statements.Clear();
        ForgetChanges();
        _dataVersion.Dispose();
        _connection.Dispose();
    }

    private void ForgetChanges()
    {
        foreach (var statement in _changes.Values)
            statement.Dispose();
        _changes.Clear();
    }

    private static TypedValue Stored(sqlite3_stmt statement, int column) =>
        raw.sqlite3_column_type(statement, column) switch
        {
            raw.SQLITE_INTEGER => new TypedValue.Whole(raw.sqlite3_column_int64(statement, column)),
            raw.SQLITE_FLOAT => new TypedValue.Real(raw.sqlite3_column_double(statement, column)),
            raw.SQLITE_TEXT => new TypedValue.Text(raw.sqlite3_column_text(statement, column).utf8_to_string()),
            raw.SQLITE_BLOB => new TypedValue.Bytes(raw.sqlite3_column_blob(statement, column).ToArray()),
            _ => TypedValue.Empty.Value,
        };

    private long DataVersion()
    {
        Step(_dataVersion, CancellationToken.None);
        var version = raw.sqlite3_column_int64(_dataVersion, 0);
        raw.sqlite3_reset(_dataVersion);
        return version;
    }

    private void Begin(CancellationToken cancellation)
    {
        _cancellation = cancellation;
        _startedAt = _clock.GetTimestamp();
    }

    private bool MustStop() => _cancellation.IsCancellationRequested || _clock.GetElapsedTime(_startedAt) > _timeLimit;

    private sqlite3_stmt Keep(SqliteQuery query)
    {
        if (_statements.Count >= MaxStatements)
        {
            foreach (var kept in _statements.Values)
                kept.Dispose();
            _statements.Clear();
        }

        var result = raw.sqlite3_prepare_v3(_handle, query.Text, raw.SQLITE_PREPARE_PERSISTENT, out var statement);
        Check(result, raw.SQLITE_OK);
        return _statements[query] = statement;
    }

    private sqlite3_stmt PrepareOnce(string sql)
    {
        Check(raw.sqlite3_prepare_v2(_handle, sql, out var statement), raw.SQLITE_OK);
        return statement;
    }

    private void Bind(sqlite3_stmt statement, IReadOnlyList<TypedValue> arguments)
    {
        // A statement may use fewer arguments than the visit has. SQLite numbers them by the highest one used.
        var count = Math.Min(arguments.Count, raw.sqlite3_bind_parameter_count(statement));
        for (var i = 0; i < count; i++)
        {
            var result = arguments[i] switch
            {
                TypedValue.Whole whole => raw.sqlite3_bind_int64(statement, i + 1, whole.Value),
                TypedValue.Text text => raw.sqlite3_bind_text(statement, i + 1, text.Value),
                TypedValue.Boolean truth => raw.sqlite3_bind_int64(statement, i + 1, truth.Value ? 1 : 0),
                TypedValue.Number number => raw.sqlite3_bind_double(statement, i + 1, (double)number.Value),
                TypedValue.Uuid or TypedValue.Date or TypedValue.Moment => raw.sqlite3_bind_text(
                    statement,
                    i + 1,
                    arguments[i].ToString()
                ),
                TypedValue.Real real => raw.sqlite3_bind_double(statement, i + 1, real.Value),
                TypedValue.Bytes bytes => raw.sqlite3_bind_blob(statement, i + 1, bytes.Value),
                _ => raw.sqlite3_bind_null(statement, i + 1),
            };
            Check(result, raw.SQLITE_OK);
        }
    }

    private bool Step(sqlite3_stmt statement, CancellationToken cancellation)
    {
        var result = raw.sqlite3_step(statement);
        if (result == raw.SQLITE_ROW)
            return true;
        if (result == raw.SQLITE_DONE)
            return false;
        cancellation.ThrowIfCancellationRequested();
        if ((result & 0xff) == raw.SQLITE_INTERRUPT)
            throw new SourceException(
                SourceTrouble.TooSlow,
                $"The query was stopped after its time limit of {_timeLimit.TotalSeconds:0.#} s."
            );
        throw Trouble(result);
    }

    private void ReadRow(sqlite3_stmt statement, nint cells, SqliteQuery query, RowBlock into)
    {
        into.BeginRow();
        for (var i = 0; i < query.Width; i++)
            ReadCell(statement, cells, i, i < query.Types.Length ? query.Types[i] : FieldType.Integer, into);
    }

    /// <summary>
    /// A value by its storage class, and as its field's type if it can be read as such: SQLite stores dates, booleans and
    /// decimals as text and numbers.
    /// </summary>
    /// <param name="cells">The statement's bare handle, valid while the statement is held.</param>
    private void ReadCell(sqlite3_stmt statement, nint cells, int column, FieldType type, RowBlock into)
    {
        switch (SqliteNative.ColumnType(cells, column))
        {
            case raw.SQLITE_INTEGER:
                TextCells.Add(SqliteNative.ColumnInteger(cells, column), type, into);
                break;
            case raw.SQLITE_FLOAT:
                into.AddReal(SqliteNative.ColumnReal(cells, column));
                break;
            case raw.SQLITE_TEXT:
                // In a UTF-16 database, asking for the text first converts it to UTF-8 in place.
                if (_wideText)
                    raw.sqlite3_column_text(statement, column);
                TextCells.Add(SqliteNative.ColumnBytes(cells, column), type, into);
                break;
            case raw.SQLITE_BLOB:
                TextCells.AddBytes(SqliteNative.ColumnBytes(cells, column), type, into);
                break;
            default:
                into.AddNull();
                break;
        }
    }

    private void Check(int result, int expected)
    {
        if (result != expected)
            throw Trouble(result);
    }

    private SourceException Trouble(int result)
    {
        IsBroken |= SqliteTrouble.BreaksConnection(result);
        return SqliteTrouble.From(result, raw.sqlite3_errmsg(_handle).utf8_to_string());
    }
}
