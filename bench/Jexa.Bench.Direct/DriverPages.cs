using System.Collections.Concurrent;
using System.Data.Common;
using System.Globalization;
using System.Text;
using Microsoft.Data.Sqlite;
using MySqlConnector;
using Npgsql;

namespace Jexa.Bench.Direct;

/// <summary>
/// The detail page through a driver's usual interface, by hand: kept connections with the one command prepared, read
/// asynchronously, limited and read-only like Jexa's.
/// </summary>
internal sealed class DriverPages(string engine, string connection)
{
    private const string Query = """
        SELECT b.name, b.code, d.slug, d.name, b.kind, b.opened_on, b.length_m, b.status, b.river, b.width_m, b.carries_t, b.lanes, b.toll, b.note
        FROM bridge b LEFT JOIN district d ON d.slug = b.district WHERE b.bridge_id = {0} AND (b.status <> 'withdrawn' OR b.status IS NULL)
        """;

    private readonly ConcurrentBag<DbCommand> _idle = [];

    public async Task<bool> WriteDetailAsync(PageBuffer page, long id, CancellationToken leaving)
    {
        if (!_idle.TryTake(out var command))
            command = await OpenAsync(leaving);
        command.Parameters[0].Value = id;
        bool found;
        await using (var reader = await command.ExecuteReaderAsync(leaving))
        {
            found = await reader.ReadAsync(leaving);
            if (found)
                Write(reader, page);
        }

        // The driver tells the server to stop what a visitor has left, and that may reach the connection's next command.
        if (leaving.IsCancellationRequested)
            await command.Connection!.DisposeAsync();
        else
            _idle.Add(command);
        return found;
    }

    private async Task<DbCommand> OpenAsync(CancellationToken leaving)
    {
        DbConnection opened = engine switch
        {
            "postgresql" => new NpgsqlConnection(
                connection + ";Pooling=false;Options=-c statement_timeout=5000 -c default_transaction_read_only=on"
            ),
            "mariadb" => new MySqlConnection(connection + ";Pooling=false;IgnorePrepare=false;TreatTinyAsBoolean=false"),
            _ => new SqliteConnection($"Data Source={connection};Mode=ReadOnly;Pooling=False;Default Timeout=5"),
        };
        await opened.OpenAsync(leaving);
        var command = opened.CreateCommand();
        if (engine == "mariadb")
        {
            command.CommandText = "SET SESSION max_statement_time = 5; SET SESSION TRANSACTION READ ONLY";
            await command.ExecuteNonQueryAsync(leaving);
        }

        command.CommandText = Query.Replace("{0}", engine == "postgresql" ? "$1" : "@id");
        command.Parameters.Add(
            engine switch
            {
                "postgresql" => new NpgsqlParameter<long>(),
                "mariadb" => new MySqlParameter("@id", MySqlDbType.Int64),
                _ => new SqliteParameter("@id", SqliteType.Integer),
            }
        );
        await command.PrepareAsync(leaving);
        return command;
    }

    private static void Write(DbDataReader row, PageBuffer page)
    {
        page.Append("<!DOCTYPE html>\n<html lang=\"en\">\n<head>\n<meta charset=\"utf-8\">\n<title>"u8);
        Text(row, 0, page);
        page.Append(Reader.Frame);
        page.Append("<p class=\"back\"><a href=\"/bridges\">Bridges</a></p>\n<h1>"u8);
        Text(row, 0, page);
        page.Append("</h1>\n<dl class=\"record\">\n"u8);
        Field("Name"u8, row, 0, page);
        Field("Code"u8, row, 1, page);
        page.Append("<div><dt>District</dt><dd><a href=\"/districts/"u8);
        if (!row.IsDBNull(2))
            page.Append(Encoding.ASCII.GetBytes(Uri.EscapeDataString(row.GetString(2))));
        page.Append("\">"u8);
        Text(row, 3, page);
        page.Append("</a></dd></div>\n"u8);
        Field("Status"u8, row, 7, page);
        Field("Kind"u8, row, 4, page);
        Field("River"u8, row, 8, page);
        Field("Opened"u8, row, 5, page);
        Field("Length (m)"u8, row, 6, page);
        Field("Width (m)"u8, row, 9, page);
        Field("Carries (t)"u8, row, 10, page);
        Field("Lanes"u8, row, 11, page);
        page.Append("<div><dt>Toll bridge</dt><dd>"u8);
        page.Append(Convert.ToInt64(row.GetValue(12), CultureInfo.InvariantCulture) == 0 ? "No"u8 : "Yes"u8);
        page.Append("</dd></div>\n"u8);
        Field("Note"u8, row, 13, page);
        page.Append("</dl>\n</main>\n</body>\n</html>\n"u8);
    }

    private static void Field(ReadOnlySpan<byte> label, DbDataReader row, int column, PageBuffer page)
    {
        page.Append("<div><dt>"u8);
        page.Append(label);
        page.Append("</dt><dd>"u8);
        Text(row, column, page);
        page.Append("</dd></div>\n"u8);
    }

    private static void Text(DbDataReader row, int column, PageBuffer page)
    {
        if (row.IsDBNull(column))
        {
            page.Append(Reader.Empty);
            return;
        }

        switch (row.GetValue(column))
        {
            case string text:
                page.AppendEncoded(Encoding.UTF8.GetBytes(text));
                break;
            case DateOnly day:
                Date(day, page);
                break;
            case DateTime at:
                Date(DateOnly.FromDateTime(at), page);
                break;
            case IFormattable number:
                page.Append(Encoding.ASCII.GetBytes(number.ToString(null, CultureInfo.InvariantCulture)));
                break;
        }
    }

    private static void Date(DateOnly day, PageBuffer page)
    {
        page.Append("<time datetime=\""u8);
        page.Append(Encoding.ASCII.GetBytes(day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)));
        page.Append("\">"u8);
        page.Append(Encoding.ASCII.GetBytes(day.ToString("d MMMM yyyy", CultureInfo.InvariantCulture)));
        page.Append("</time>"u8);
    }
}
