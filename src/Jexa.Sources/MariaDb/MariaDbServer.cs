using System.Data.Common;
using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Sources.Sql;
using MySqlConnector;

namespace Jexa.Sources.MariaDb;

/// <summary>
/// MariaDB, through its driver. Connections are set up when they are opened, so that each query of a visit is one round trip.
/// </summary>
internal sealed partial class MariaDbServer : SqlServer
{
    private readonly string _connection;
    private readonly string _replica;
    private volatile IReadOnlyDictionary<string, IReadOnlyList<string>> _keys = new Dictionary<string, IReadOnlyList<string>>();

    public MariaDbServer(SourceSettings settings)
        : base(settings)
    {
        _connection = Connection(settings, settings.Connection);
        _replica = Connection(settings, settings.Replica ?? settings.Connection);
    }

    public override string Product => "MariaDB";

    public override SqlScript Script => MariaDbText.Reading;

    public override string Locking => " FOR UPDATE";

    public override string MakeNotes =>
        "CREATE TABLE IF NOT EXISTS jexa_commit (`token` varchar(64) CHARACTER SET ascii COLLATE "
        + "ascii_bin PRIMARY KEY, `key` text CHARACTER SET utf8mb4) ENGINE=InnoDB";

    public override string AddNote => "INSERT IGNORE INTO jexa_commit (`token`, `key`) VALUES (@p0, @p1)";

    public override bool Prepares => true;

    /// <summary>The columns that say something, in the server's own words: <c>t0: ref, key bridge_number, ref const, rows 1</c>.
    /// </summary>
    public override IReadOnlyList<string> Plan(IReadOnlyList<string?[]> rows) =>
        [
            // id, select_type, table, type, possible_keys, key, key_len, ref, rows, Extra
            .. rows.Select(row =>
                $"{row[2] ?? row[1]}: "
                + string.Join(
                    ", ",
                    new[]
                    {
                        row[3] ?? "no table",
                        row[5] is { } key ? $"key {key}" : "no key",
                        row[7] is { } by ? $"ref {by}" : "",
                        row[8] is { } count ? $"rows {count}" : "",
                        row[9] is { Length: > 0 } extra ? extra : "",
                    }.Where(part => part.Length > 0)
                )
            ),
        ];

    public override string Quote(string name) => MariaDbText.Quote(name);

    public override string Placeholder(int position) => $"@p{position}";

    public override ValueTask<DbConnection> OpenAsync(ServerUse use, CancellationToken cancellation)
    {
        var seconds = Settings.TimeLimit.TotalSeconds.ToString("0.###", CultureInfo.InvariantCulture);
        var wait = (int)Math.Max(1, Settings.TimeLimit.TotalSeconds);
        return OpenAsync(
            new MySqlConnection(use == ServerUse.ReadingReplica ? _replica : _connection),
            "SET SESSION sql_mode = 'STRICT_ALL_TABLES,ERROR_FOR_DIVISION_BY_ZERO,NO_ENGINE_SUBSTITUTION', "
                + $"time_zone = '+00:00', max_statement_time = {seconds}, innodb_lock_wait_timeout = {wait}, "
                + $"lock_wait_timeout = {wait}; "
                + "SET SESSION TRANSACTION ISOLATION LEVEL READ COMMITTED, "
                + $"{(use == ServerUse.Changing ? "READ WRITE" : "READ ONLY")}",
            cancellation
        );
    }

    protected override (DbConnection Other, string Text)? Stopping(DbConnection connection) =>
        (new MySqlConnection(connection.ConnectionString), $"KILL {((MySqlConnection)connection).ServerThread}");

    public override Task ExecuteAsync(DbCommand command, bool onlyReads) =>
        ((MySqlCommand)command).ExecuteReaderAsync(CancellationToken.None);

    public override DbDataReader ReaderOf(Task executed) => ((Task<MySqlDataReader>)executed).Result;

    public override SqlText Text(NativeSchema schema, IReadOnlyList<TypedValue>? shown) =>
        new MariaDbText(schema) { Shown = shown };

    public override DbParameter Parameter(int position) =>
        new MySqlParameter { ParameterName = $"@p{position}", Value = DBNull.Value };

    public override void Bind(DbParameter parameter, TypedValue value) =>
        parameter.Value = MariaDbText.Bound(value) ?? DBNull.Value;

    public override void Read(DbDataReader reader, int column, CellReading reading, RowBlock into)
    {
        switch (reading.Kind)
        {
            case NativeKind.Integer:
                TextCells.Add(reader.GetInt64(column), reading.Type, into);
                break;
            case NativeKind.Boolean:
                TextCells.Add(reader.GetInt64(column), reading.IsStored ? FieldType.Any : FieldType.Boolean, into);
                break;
            case NativeKind.Real:
                into.AddReal(reader.GetDouble(column));
                break;
            case NativeKind.Date or NativeKind.Timestamp or NativeKind.Moment:
                AddMoment(((MySqlDataReader)reader).GetMySqlDateTime(column), reading, into);
                break;
            case NativeKind.Bytes:
                TextCells.AddBytes(reader.GetFieldValue<byte[]>(column), reading.Type, into);
                break;
            case NativeKind.Text:
                TextCells.Add(reader.GetString(column), reading.Type, into);
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
                TextCells.Add(AsText(reader, column), reading.Type, into);
                break;
        }
    }

    public override async ValueTask<(SourceSchema Schema, NativeSchema Native)> DescribeAsync(
        ServerConnection connection,
        CancellationToken cancellation
    )
    {
        var (schema, native) = await MariaDbDescriber.DescribeAsync(connection, cancellation);
        _keys = native.KeyColumns;
        return (schema, native);
    }

    public override ValueTask<IReadOnlyList<NativeColumn>> DescribeQueryAsync(
        ServerConnection connection,
        string query,
        CancellationToken cancellation
    ) => MariaDbDescriber.DescribeQueryAsync(connection, query, cancellation);

    public override Exception Translate(DbException error)
    {
        if (error is not MySqlException said)
            return new SourceException(SourceTrouble.Away, $"MariaDB cannot be reached: {error.Message}", error);
        var message = $"MariaDB says: {said.Message.TrimEnd('.')} (error {said.Number}).";
        RefusedException Refused(RefusalReason reason, IReadOnlyList<string> columns, string words = "") =>
            new(reason, columns, words, message);
        return said.ErrorCode switch
        {
            MySqlErrorCode.DuplicateKeyEntry or MySqlErrorCode.DuplicateEntryWithKeyName => Refused(
                RefusalReason.Unique,
                KeyColumns(said.Message)
            ),
            MySqlErrorCode.ColumnCannotBeNull or MySqlErrorCode.NoDefaultForField => Refused(
                RefusalReason.Empty,
                Named(said.Message)
            ),
            MySqlErrorCode.NoReferencedRow or MySqlErrorCode.NoReferencedRow2 => Refused(
                RefusalReason.Reference,
                ForeignKey().Match(said.Message) is { Success: true } match ? Names(match.Groups[1].Value) : []
            ),
            MySqlErrorCode.RowIsReferenced or MySqlErrorCode.RowIsReferenced2 => Refused(RefusalReason.Reference, []),
            (MySqlErrorCode)4025 => Refused(RefusalReason.Check, CheckColumns(said.Message)),
            MySqlErrorCode.DataTooLong
            or MySqlErrorCode.WarningDataOutOfRange
            or MySqlErrorCode.TruncatedWrongValue
            or MySqlErrorCode.TruncatedWrongValueForField
            or (MySqlErrorCode)1265 => Refused(RefusalReason.Type, Named(said.Message)),
            _ when said.SqlState == "45000" => Refused(RefusalReason.Own, [], said.Message),
            (MySqlErrorCode)1969 or MySqlErrorCode.QueryInterrupted or (MySqlErrorCode)3024 => new SourceException(
                SourceTrouble.TooSlow,
                $"The query was stopped after its time limit of {Settings.TimeLimit.TotalSeconds:0.#} s.",
                error
            ),
            MySqlErrorCode.LockWaitTimeout or MySqlErrorCode.LockDeadlock or MySqlErrorCode.CommandTimeoutExpired =>
                new SourceException(SourceTrouble.TooSlow, message, error),
            MySqlErrorCode.AccessDenied or MySqlErrorCode.UnknownDatabase or MySqlErrorCode.DatabaseAccessDenied =>
                new SourceException(SourceTrouble.Away, message, error) { IsSettled = true },
            MySqlErrorCode.UnableToConnectToHost
            or MySqlErrorCode.TooManyUserConnections
            or MySqlErrorCode.ConnectionCountError
            or (MySqlErrorCode)1226
            or MySqlErrorCode.ServerShutdown
            or (MySqlErrorCode)1927
            or (MySqlErrorCode)2006
            or (MySqlErrorCode)2013 => new SourceException(SourceTrouble.Away, message, error),
            _ => said.Number == 0
                ? new SourceException(SourceTrouble.Away, "The connection to MariaDB was lost.", error)
                : new SourceException(SourceTrouble.Failed, message, error),
        };
    }

    public override bool IsFull(DbException error) =>
        error
            is MySqlException
            {
                ErrorCode: MySqlErrorCode.ConnectionCountError or MySqlErrorCode.TooManyUserConnections or (MySqlErrorCode)1226
            };

    /// <summary>A statement that must be prepared again, or is not known any more.</summary>
    public override bool IsStale(DbException error) => error is MySqlException { Number: 1615 or 1243 };

    public override async ValueTask ClaimAsync(ServerConnection connection, string token, CancellationToken cancellation)
    {
        var seconds = Settings.TimeLimit.TotalSeconds.ToString("0.###", CultureInfo.InvariantCulture);
        var (_, row) = await connection.ExecuteAsync(
            $"SELECT GET_LOCK(CONCAT('jexa ', @p0), {seconds})",
            [new TypedValue.Text(token)],
            cancellation
        );
        if (row?[0] is not { } got || Convert.ToInt64(got, CultureInfo.InvariantCulture) != 1)
            throw new SourceException(SourceTrouble.TooSlow, "Another change of the same form is under way.");
    }

    public override async ValueTask ReleaseAsync(ServerConnection connection) =>
        await connection.ExecuteAsync("DO RELEASE_ALL_LOCKS()", [], CancellationToken.None);

    /// <summary>An invalid date, such as 0000-00-00, stays text.</summary>
    private static string Connection(SourceSettings settings, string connection)
    {
        var builder = Read(
            connection,
            new MySqlConnectionStringBuilder(),
            "Server=127.0.0.1;Database=register;User ID=reader",
            "mariadb",
            "mysql"
        );
        builder.Pooling = false;
        builder.TreatTinyAsBoolean = false;
        builder.GuidFormat = MySqlGuidFormat.None;
        builder.AllowZeroDateTime = true;
        builder.ConvertZeroDateTime = false;
        builder.IgnorePrepare = false;
        builder.UseAffectedRows = false;
        builder.AllowUserVariables = false;
        builder.DefaultCommandTimeout = 0;
        builder.CancellationTimeout = 1;
        builder.ConnectionTimeout = (uint)Math.Max(1, Math.Ceiling(settings.TimeLimit.TotalSeconds));
        builder.CharacterSet = "utf8mb4";
        builder.PersistSecurityInfo = true;
        return builder.ConnectionString;
    }

    private static void AddMoment(MySqlDateTime value, CellReading reading, RowBlock into)
    {
        var isDate = reading.Kind == NativeKind.Date;
        if (!value.IsValidDateTime)
        {
            var none =
                $"{value.Year:0000}-{value.Month:00}-{value.Day:00}"
                + (isDate ? "" : $" {value.Hour:00}:{value.Minute:00}:{value.Second:00}");
            TextCells.Add(none, FieldType.Any, into);
            return;
        }

        var moment = value.GetDateTime();
        if (reading.IsStored)
            TextCells.Add(
                isDate ? moment.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture) : TextCells.Stored(moment),
                FieldType.Any,
                into
            );
        else if (isDate)
            into.AddNumber(CellKind.Date, DateOnly.FromDateTime(moment).DayNumber);
        else
            into.AddNumber(CellKind.Timestamp, moment.Ticks);
    }

    private static string AsText(DbDataReader reader, int column) =>
        reader.GetValue(column) switch
        {
            string text => text,
            byte[] bytes => Encoding.UTF8.GetString(bytes),
            var other => Convert.ToString(other, CultureInfo.InvariantCulture) ?? "",
        };

    /// <summary><c>Duplicate entry 'x' for key 'name'</c>: the columns of that key, if the describer knows it.</summary>
    private IReadOnlyList<string> KeyColumns(string message) =>
        LastQuoted().Match(message) is not { Success: true } match
            ? []
            : _keys.GetValueOrDefault(match.Groups[1].Value) ?? [match.Groups[1].Value];

    private static List<string> Named(string message) =>
        FirstQuoted().Match(message) is { Success: true } match ? [match.Groups[1].Value.Split('.')[^1].Trim('`')] : [];

    private static List<string> CheckColumns(string message) =>
        [.. Word().Matches(message).Select(match => match.Value).Distinct()];

    private static List<string> Names(string list) => [.. list.Split(',').Select(name => name.Trim().Trim('`'))];

    [GeneratedRegex(@"FOREIGN KEY \(([^)]*)\)")]
    private static partial Regex ForeignKey();

    [GeneratedRegex(@"for key '([^']*)'")]
    private static partial Regex LastQuoted();

    [GeneratedRegex(@"(?:[Cc]olumn|[Ff]ield) '?((?:`[^`]*`\.)*`?[^'`]+`?)'?")]
    private static partial Regex FirstQuoted();

    [GeneratedRegex(@"[\p{L}_][\p{L}\p{N}_]*")]
    private static partial Regex Word();
}
