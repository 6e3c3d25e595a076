using System.Data.Common;
using System.Globalization;
using Microsoft.Data.Sqlite;
using MySqlConnector;
using Npgsql;
using NpgsqlTypes;

namespace Jexa.Demo;

/// <summary>A database that the register cannot be copied into, and why.</summary>
public sealed class CopyException(string message, Exception? inner = null) : Exception(message, inner);

/// <summary>Copies the bridge register, table by table, from its SQLite file into a database of a server.</summary>
public static class RegisterCopy
{
    private const int RowsAtOnce = 100;

    /// <summary>The engines it can be copied into.</summary>
    public static IReadOnlyList<string> Engines { get; } = ["postgresql", "mariadb"];

    /// <param name="file">The register, made already.</param>
    /// <param name="replace">Whether a register that is there already is taken away first.</param>
    /// <param name="progress">Told how many rows of how many are there.</param>
    /// <returns>How many rows were copied.</returns>
    /// <exception cref="CopyException">The database cannot be reached, or holds such tables already.</exception>
    public static async Task<long> RunAsync(
        string file,
        string engine,
        string connection,
        bool replace,
        Action<string, long, long> progress,
        CancellationToken cancellation
    )
    {
        try
        {
            await using DbConnection target =
                engine == "postgresql" ? new NpgsqlConnection(connection) : new MySqlConnection(connection);
            await target.OpenAsync(cancellation);
            await PrepareAsync(target, engine, replace, cancellation);
            await using var source = new SqliteConnection(
                new SqliteConnectionStringBuilder
                {
                    DataSource = file,
                    Mode = SqliteOpenMode.ReadOnly,
                    Pooling = false,
                }.ConnectionString
            );
            await source.OpenAsync(cancellation);
            var total = RegisterSchema.Tables.Sum(table =>
                Convert.ToInt64(Ask(source, $"SELECT count(*) FROM {table}"), CultureInfo.InvariantCulture)
            );
            var copied = 0L;
            foreach (var table in RegisterSchema.Tables)
                copied = await CopyAsync(source, target, table, copied, done => progress(table, done, total), cancellation);
            await ExecuteAsync(
                target,
                engine == "postgresql"
                    ? SchemaDialect.Translate("", engine) + "\nANALYZE;"
                    : $"ANALYZE TABLE {string.Join(", ", RegisterSchema.Tables)}",
                cancellation
            );
            return copied;
        }
        catch (Exception refused) when (refused is DbException or ArgumentException or System.Net.Sockets.SocketException)
        {
            throw new CopyException(refused is ArgumentException ? "The connection cannot be read." : refused.Message, refused);
        }
    }

    private static async Task PrepareAsync(DbConnection target, string engine, bool replace, CancellationToken cancellation)
    {
        if (replace)
        {
            await ExecuteAsync(target, "DROP VIEW IF EXISTS trial", cancellation);
            foreach (var table in RegisterSchema.Tables.Reverse().Append("trial_case").Append("jexa_commit"))
                await ExecuteAsync(
                    target,
                    $"DROP TABLE IF EXISTS {table}{(engine == "postgresql" ? " CASCADE" : "")}",
                    cancellation
                );
            if (engine == "postgresql")
                await ExecuteAsync(
                    target,
                    "DROP FUNCTION IF EXISTS defect_mended_later, defect_added_mended_later",
                    cancellation
                );
        }

        foreach (var table in RegisterSchema.Tables)
        {
            var found = await AskAsync(
                target,
                $"SELECT count(*) FROM information_schema.tables WHERE table_name = '{table}' AND table_schema = "
                    + $"{(engine == "postgresql" ? "current_schema()" : "database()")}",
                cancellation
            );
            if (Convert.ToInt64(found, CultureInfo.InvariantCulture) > 0)
                throw new CopyException(
                    $"It holds a table called {table} already. Choose an empty database, or say --replace to have "
                        + "the register's tables made anew."
                );
        }

        await ExecuteAsync(
            target,
            SchemaDialect.Translate(RegisterSchema.Text, engine) + "\n" + RegisterSchema.Trial(engine),
            cancellation
        );
    }

    private static async Task<long> CopyAsync(
        SqliteConnection source,
        DbConnection target,
        string table,
        long copied,
        Action<long> progress,
        CancellationToken cancellation
    )
    {
        await using var select = source.CreateCommand();
        select.CommandText = $"SELECT * FROM {table}";
        await using var reader = await select.ExecuteReaderAsync(cancellation);
        var columns = Enumerable.Range(0, reader.FieldCount).Select(reader.GetName).ToList();
        await using var transaction = await target.BeginTransactionAsync(cancellation);
        var rows = new List<object[]>();
        while (await reader.ReadAsync(cancellation))
        {
            var row = new object[columns.Count];
            reader.GetValues(row);
            rows.Add(row);
            if (rows.Count == RowsAtOnce)
                await FlushAsync();
        }

        if (rows.Count > 0)
            await FlushAsync();
        await transaction.CommitAsync(cancellation);
        return copied;

        async Task FlushAsync()
        {
            await using var insert = target.CreateCommand();
            insert.Transaction = transaction;
            insert.CommandText =
                $"INSERT INTO {table} ({string.Join(", ", columns)}) VALUES "
                + string.Join(
                    ", ",
                    rows.Select(
                        (_, row) => $"({string.Join(", ", columns.Select((_, column) => $"@v{(row * columns.Count) + column}"))})"
                    )
                );
            foreach (var value in rows.SelectMany(row => row))
                insert.Parameters.Add(Parameter(insert, insert.Parameters.Count, value));
            await insert.ExecuteNonQueryAsync(cancellation);
            copied += rows.Count;
            rows.Clear();
            progress(copied);
        }
    }

    /// <summary>Every value as its text, which the server reads as the column's type.</summary>
    private static DbParameter Parameter(DbCommand command, int number, object value)
    {
        object text = value switch
        {
            DBNull => DBNull.Value,
            byte[] { Length: 16 } uuid => new Guid(uuid, bigEndian: true).ToString("D"),
            _ => Convert.ToString(value, CultureInfo.InvariantCulture)!,
        };
        if (command is NpgsqlCommand)
            return new NpgsqlParameter
            {
                ParameterName = $"v{number}",
                NpgsqlDbType = NpgsqlDbType.Unknown,
                Value = text,
            };
        var parameter = command.CreateParameter();
        parameter.ParameterName = $"@v{number}";
        parameter.Value = text;
        return parameter;
    }

    private static object? Ask(SqliteConnection source, string sql)
    {
        using var command = source.CreateCommand();
        command.CommandText = sql;
        return command.ExecuteScalar();
    }

    private static async Task<object?> AskAsync(DbConnection target, string sql, CancellationToken cancellation)
    {
        await using var command = target.CreateCommand();
        command.CommandText = sql;
        return await command.ExecuteScalarAsync(cancellation);
    }

    private static async Task ExecuteAsync(DbConnection target, string sql, CancellationToken cancellation)
    {
        await using var command = target.CreateCommand();
        command.CommandText = sql;
        await command.ExecuteNonQueryAsync(cancellation);
    }
}
